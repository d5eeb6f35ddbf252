import { MOST_TURN_DEG } from '../stages/crop';
import type { StageValues } from '../stages';
import type { MarkFact } from '../stages/cutOutFacts';

/** Room left round a mark that is taken from a sheet, as a share of its longer side. */
const ROOM_SHARE = 0.07;
const LEAST_ROOM_PX = 8;
/** Writing that leans less than this is left as it is: turning would cost sharpness and win nothing. */
const LEAST_TURN_DEG = 0.4;

/**
 * The settings that take one of a sheet's marks: cropped with room, set upright, its neighbours' strokes left out.
 * @param mark   as measured on the whole sheet
 * @param sheet  size of the sheet, full-size pixels
 */
export function takeMark(values: StageValues, mark: MarkFact, sheet: { width: number; height: number }): StageValues {
  const turn =
    Math.abs(mark.angleDeg) < LEAST_TURN_DEG ? 0 : Math.max(-MOST_TURN_DEG, Math.min(MOST_TURN_DEG, mark.angleDeg));
  const box = turn === 0 ? mark : mark.region;
  const { drawn } = mark;
  const most = drawn ? drawn.roomPx : Infinity;
  const room = Math.min(most, Math.max(LEAST_ROOM_PX, ROOM_SHARE * Math.max(box.width, box.height)));
  const grown = { x: box.x - room, y: box.y - room, width: box.width + 2 * room, height: box.height + 2 * room };
  const rect =
    turn === 0
      ? clip(grown, sheet)
      : {
          x: Math.round(grown.x),
          y: Math.round(grown.y),
          width: Math.round(grown.width),
          height: Math.round(grown.height),
        };
  // In the corner of a region with room there is nothing but what lies behind.
  const behind = { x: rect.x + 1, y: rect.y + 1 };
  const tidy = drawn?.isBacked ? { ...values.tidy, drop: [...values.tidy.drop, behind] } : values.tidy;
  return { ...values, tidy, crop: { ...values.crop, rect, turn }, cutOut: { ...values.cutOut, mark: mark.at } };
}

/** The settings that go back to the whole sheet. */
export const takeWholeSheet = (values: StageValues): StageValues => ({
  ...values,
  crop: { ...values.crop, rect: null, turn: 0 },
  cutOut: { ...values.cutOut, mark: null },
});

function clip(r: { x: number; y: number; width: number; height: number }, sheet: { width: number; height: number }) {
  const x = Math.max(0, Math.floor(r.x));
  const y = Math.max(0, Math.floor(r.y));
  return {
    x,
    y,
    width: Math.min(sheet.width, Math.ceil(r.x + r.width)) - x,
    height: Math.min(sheet.height, Math.ceil(r.y + r.height)) - y,
  };
}
