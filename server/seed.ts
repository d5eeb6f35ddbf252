import type { Logger } from 'pino';
import type { PageObject } from '../contract/views';
import { isCoreError } from '../core/errors';
import { readPlacement } from '../core/placements/readPlacement';
import { USUAL_WALL, readWallRule } from '../core/wall/wallRule';
import { palette } from '../demo/palette';
import { drawPartners } from '../demo/partners';
import { TOWPATH, drawTowpathClip } from '../demo/towpathClip';
import { drawYearlyReview } from '../demo/yearlyReview';
import { drawGrounds, drawLogos, drawSheets, drawSignatures } from '../demo/scenario';
import { keepBlob, sha256 } from './store/blobs';
import { addBrand, addGround, changeBrand, findGroundPhoto, listBrands, listGrounds } from './store/brands';
import { withTransaction } from './store/db';
import { listMarks } from './store/marks';
import { USUAL_OPTIONS, addPlacement, addRunGround } from './store/placements';
import { addSlot, addWall } from './store/walls';
import { type TakeInDeps, takeIn, takeInPicked } from './takeIn';

export const DEMO_BRAND = 'Harrowmere Lock Keepers’ Trust';

const names: Record<keyof typeof palette, string> = {
  lampBlack: 'Lamp black',
  enamelCream: 'Enamel cream',
  canalGreen: 'Canal green',
  paddleRed: 'Paddle red',
  fogBlue: 'Fog blue',
};

const dusk = {
  name: 'Dusk on the cut',
  stops: [
    { at: 0, colour: palette.canalGreen },
    { at: 0.6, colour: palette.fogBlue },
    { at: 1, colour: palette.enamelCream },
  ],
};

/** Of the photos those that the bench shows at first. */
const proofs = ['misty-towpath', 'lock-by-night'];

/** Fills an empty database with the demo scenario, through the same take-in that a person's files go through. */
export async function seedDemo(deps: TakeInDeps, log: Logger, draw = drawScenario): Promise<void> {
  const { pool } = deps;
  if ((await listBrands(pool)).length > 0) return;
  // Another process may have the same thought at the same time: the scenario is the work of who has it first.
  const client = await pool.connect();
  try {
    const { rows } = await client.query<{ mine: boolean }>('select pg_try_advisory_lock($1) as mine', [SEED_LOCK]);
    if (rows[0].mine) await draw(deps, log);
  } finally {
    await client.query('select pg_advisory_unlock($1)', [SEED_LOCK]).catch(() => {});
    client.release();
  }
}

/** Any number that nothing else locks. */
const SEED_LOCK = 7_318_844;

async function drawScenario(deps: TakeInDeps, log: Logger): Promise<void> {
  const { pool } = deps;
  log.info('drawing the demo scenario');
  const [logos, signatures, grounds] = await Promise.all([drawLogos(), drawSignatures(), drawGrounds()]);
  const colours = Object.entries(palette).map(([key, hex]) => ({ name: names[key as keyof typeof palette], hex }));
  const brandId = await withTransaction(pool, async (tx) => {
    const id = await addBrand(tx, DEMO_BRAND, colours);
    await changeBrand(tx, id, 1, { gradients: [dusk] });
    for (const g of grounds) {
      const blobSha = await keepBlob(tx, g.bytes, 'image/jpeg');
      const { name, tone, width, height } = g;
      await addGround(tx, id, { name, tone, hex: null, blobSha, width, height, isProof: proofs.includes(g.id) });
    }
    return id;
  }).catch((error: unknown) => {
    // Another process had the same thought at the same time: the scenario is its work then.
    if (isCoreError(error) && error.code === 'store/duplicate-name') return null;
    throw error;
  });
  if (brandId === null) return;
  await hangPartners(deps, brandId);
  await takeInPartner(deps, brandId);
  for (const mark of [...drawSheets(), ...logos, ...signatures]) {
    await takeIn(deps, brandId, { bytes: mark.bytes, name: mark.fileName, known: { markName: mark.name } });
  }
  await placeSurveyor(deps, brandId);
}

/** The twelve partners on a wall, each as its file came. */
export async function hangPartners(deps: TakeInDeps, brandId: string): Promise<void> {
  const rule = readWallRule({ ...USUAL_WALL, ground: '#e8e6df' });
  const wall = await addWall(deps.pool, brandId, 'Towpath partners', rule);
  const files = (await drawPartners()).map((file, at) => ({ ...file, at }));
  const turn = async () => {
    for (let next = files.shift(); next; next = files.shift()) {
      const { name, fileName, bytes, at } = next;
      const { mark } = await takeIn(deps, brandId, { bytes, name: fileName, known: { markName: name } });
      const slot = { markId: mark.id, file: fileName, originalSha: sha256(bytes), shows: null, at };
      await addSlot(deps.pool, wall, slot);
    }
  };
  await Promise.all([turn(), turn()]);
}

/** The surveyor signs the six photos and the towpath clip, in black or white. */
async function placeSurveyor({ pool, core }: TakeInDeps, brandId: string): Promise<void> {
  const marks = await listMarks(pool, brandId);
  const mark = marks.find((m) => m.name === 'Bram Tolliver');
  if (!mark) return;
  const item = { mark: mark.id, variant: ['black', 'reversed'], size: '24%', opacity: 0.85 };
  const rule = readPlacement({ items: [item] });
  const name = 'Bram Tolliver, lower right, 85 %';
  const id = await addPlacement(pool, brandId, { name, rule, options: USUAL_OPTIONS });
  for (const g of await listGrounds(pool, brandId)) {
    const sha = await findGroundPhoto(pool, brandId, g.id);
    const { width, height } = g;
    await addRunGround(pool, id, {
      ...{ name: `${g.name}.jpg`, kind: 'photo', blobSha: sha, previewSha: sha, width, height, seconds: null },
    });
  }
  const clip = await core.prepareRunGround({ bytes: await drawTowpathClip(), name: TOWPATH.fileName });
  await addRunGround(pool, id, { ...clip, name: TOWPATH.fileName });
}

/** The mooring partner's mark, picked from the page of the yearly review on which it stands. */
async function takeInPartner(deps: TakeInDeps, brandId: string): Promise<void> {
  const { bytes, fileName, markName, page, mark } = await drawYearlyReview();
  const { sha, name } = await deps.core.openPdf({ bytes, name: fileName });
  const { objects } = await deps.core.describePage({ sha, name, page });
  const isOnMark = ({ box: b }: PageObject) =>
    b.x >= mark.x && b.y >= mark.y && b.x + b.width <= mark.x + mark.width && b.y + b.height <= mark.y + mark.height;
  const picked = objects.flatMap((object, k) => (isOnMark(object) ? [k] : []));
  await takeInPicked(deps, brandId, { sha, name, page, markName, objects: picked, picture: null });
}
