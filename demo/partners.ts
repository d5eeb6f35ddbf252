import sharp from 'sharp';
import { placeOnCanvas } from '../core/raster/cropRaster';
import type { Raster } from '../core/raster/raster';
import { toJpeg, toPng } from './capture';
import { type PartnerDrawing, partnerDrawings } from './marks/partners';
import { compositeOn, renderSvg } from './render';

/** A partner's logo as it arrives. */
export interface PartnerFile {
  readonly name: string;
  readonly fileName: string;
  readonly bytes: Buffer;
}

const WHITE = [255, 255, 255] as const;

const drawn = ({ body, width, height }: PartnerDrawing, times: number, padding = 0): Raster => {
  const [w, h] = [width + 2 * padding, height + 2 * padding];
  return renderSvg(body, Math.round(w * times), Math.round(h * times), `${-padding} ${-padding} ${w} ${h}`);
};

/** Three stand on white boxes, one is blown up, one is drawn out, two have wide margins, two are drawings. */
const arrivals: Record<string, (own: PartnerDrawing) => Promise<{ ending: string; bytes: Buffer }>> = {
  'northcut-barges': async (own) => ({
    ending: 'jpg',
    bytes: await toJpeg(compositeOn(drawn(own, 1.4, 30), WHITE), 90),
  }),
  'quay-lane-bakery': async (own) => ({
    ending: 'jpg',
    bytes: await toJpeg(compositeOn(drawn(own, 1.5, 24), WHITE), 92),
  }),
  'otter-and-oar': async (own) => ({ ending: 'png', bytes: await toPng(compositeOn(drawn(own, 2, 20), WHITE), false) }),
  reedling: async (own) => {
    const mark = drawn(own, 2);
    const [width, height] = [Math.round(mark.width * 2.2), Math.round(mark.height * 4)];
    const wide = placeOnCanvas(mark, width, height, (width - mark.width) >> 1, (height - mark.height) >> 1);
    return { ending: 'png', bytes: await toPng(wide, true) };
  },
  'wharfside-radio': async (own) => {
    const small = drawn(own, 0.3);
    const bytes = await sharp(await toPng(small, true))
      .resize(Math.round(own.width * 1.5), Math.round(own.height * 1.5), { fit: 'fill', kernel: 'cubic' })
      .png()
      .toBuffer();
    return { ending: 'png', bytes };
  },
  heronry: async (own) => {
    const mark = drawn(own, 1.8);
    const bytes = await sharp(await toPng(mark, true))
      .resize(Math.round(mark.width * 2.2), mark.height, { fit: 'fill', kernel: 'cubic' })
      .png()
      .toBuffer();
    return { ending: 'png', bytes };
  },
  'mill-and-weir': async (own) => ({ ending: 'svg', bytes: svgOf(own) }),
  'pollard-rope': async (own) => ({ ending: 'svg', bytes: svgOf(own) }),
};

const svgOf = ({ width, height, body }: PartnerDrawing) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" ` +
      `viewBox="0 0 ${width} ${height}">${body}</svg>`,
  );

const sound = async (own: PartnerDrawing) => ({
  ending: 'png',
  bytes: await toPng(drawn(own, Math.max(1, 700 / Math.max(own.width, own.height))), true),
});

/** The files of the towpath's twelve partners. */
export const drawPartners = (): Promise<PartnerFile[]> =>
  Promise.all(
    partnerDrawings().map(async (own) => {
      const { ending, bytes } = await (arrivals[own.id] ?? sound)(own);
      return { name: own.name, fileName: `${own.id}.${ending}`, bytes };
    }),
  );
