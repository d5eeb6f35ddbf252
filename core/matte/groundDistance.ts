import { type Call, type View, bytes, call } from '../kernels/heap';
import type { Raster } from '../raster/raster';
import type { Ground } from './measureGround';

/** Arrays of a ground that kernels read. */
export const viewsOf = (ground: Ground): View[] => (ground.plane ? [ground.plane.data] : []);

/** Tells the kernels what ground the picture has. A ground given as a plane must have been cut to the picture. */
export function setGround(
  { k, at }: Call,
  { colour, surface, plane, frame }: Ground,
  width: number,
  height: number,
): void {
  if (plane) k.setGroundPlane(at(plane.data), plane.width);
  else if (surface) {
    surface.forEach((c, channel) =>
      k.setGroundSurface({ channel, k0: c[0], k1: c[1], k2: c[2], k3: c[3], k4: c[4], k5: c[5] }),
    );
    k.setGroundFrame(frame?.x ?? 0, frame?.y ?? 0, frame?.width ?? width, frame?.height ?? height);
  } else k.setGroundColour(colour[0], colour[1], colour[2]);
}

/**
 * How far each pixel is from the ground's colour at its place: the largest difference of any channel, 0..255.
 * The largest channel, not the sum: a pale yellow on white differs in blue alone and must still count.
 * A surface is smooth, so it is evaluated on a coarse grid and interpolated along each row.
 */
export function groundDistance(raster: Raster, ground: Ground): Uint8Array {
  const { width, height, data } = raster;
  const out = bytes(width * height);
  const { colour, plane, surface } = ground;
  call([data, ...viewsOf(ground)], [out], 0, (c) => {
    const { k, at } = c;
    if (plane) k.distanceFromPlane(at(data), out.length, at(plane.data), at(out));
    else if (surface) {
      setGround(c, ground, width, height);
      k.distanceFromSurface(at(data), width, height, at(out));
    } else k.distanceFromColour(at(data), out.length, colour[0], colour[1], colour[2], at(out));
  });
  return out;
}
