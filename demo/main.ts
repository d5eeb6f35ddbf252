// Writes the demo scenario to demo/out for a look: every file as it arrives, and its truth beside it.
import { mkdirSync, writeFileSync } from 'node:fs';
import { toPng } from './capture';
import { drawPartners } from './partners';
import { drawYearlyReview } from './yearlyReview';
import { drawMooringAgreement } from './mooringAgreement';
import { TOWPATH, drawTowpathClip } from './towpathClip';
import { drawGrounds, drawLogos, drawSignatures } from './scenario';

const out = new URL('./out/', import.meta.url).pathname;
mkdirSync(out, { recursive: true });
for (const mark of [...(await drawLogos()), ...(await drawSignatures())]) {
  writeFileSync(`${out}${mark.fileName}`, mark.bytes);
  writeFileSync(`${out}${mark.id}.truth.png`, await toPng(mark.truth, true));
  console.log(`${mark.fileName}  ${mark.truth.width} × ${mark.truth.height} px`);
}
for (const ground of await drawGrounds()) writeFileSync(`${out}${ground.id}.jpg`, ground.bytes);
const review = await drawYearlyReview();
writeFileSync(`${out}${review.fileName}`, review.bytes);
const agreement = await drawMooringAgreement();
writeFileSync(`${out}${agreement.fileName}`, agreement.bytes);
writeFileSync(`${out}${TOWPATH.fileName}`, await drawTowpathClip());
for (const partner of await drawPartners()) writeFileSync(`${out}${partner.fileName}`, partner.bytes);
