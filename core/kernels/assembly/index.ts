// Everything that core/kernels/heap.ts may call.
export * from './areas';
export * from './bleed';
export * from './boxes';
export * from './directions';
export * from './dirt';
export * from './edges';
export {
  distanceFromColour,
  distanceFromPlane,
  distanceFromSurface,
  setGroundColour,
  setGroundFrame,
  setGroundPlane,
  setGroundSurface,
} from './ground';
export * from './fill';
export { copyBytes, fillBytes, moveRows } from './memory';
export { blendRows, resampleRow } from './resample';
export * from './ripple';
export * from './segments';
export * from './shade';
export { growCore, growSoft, nextSoftSeed, startSoft } from './soft';
export * from './solid';
export * from './trouble';
export { matchColour, nearestFlat, setBehind, setColours, setUnmix, unmixInner, unmixOuter } from './unmix';
