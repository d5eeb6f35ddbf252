import type { StageValues } from '../../../../core/stages';
import type { Engine } from '../useEngine';
import type { Place } from './frame';
import { useProbe } from './useProbe';

/** The numbers of the pixel under the pointer: its colour, the ground's, its own once freed from the ground, and how much it covers. */
export function HoverNumbers({ engine, values, at }: { engine: Engine; values: StageValues; at: Place | null }) {
  const probe = useProbe(engine, values, at);
  if (!probe) return <span />;
  const one = (name: string, hex: string | null) =>
    hex && (
      <span className="swatch" key={name}>
        {name} <i style={{ background: hex }} />
        {hex.toUpperCase()}
      </span>
    );
  return (
    <span className="hover-numbers small" aria-hidden="true">
      {one('seen', probe.original)}
      {one('ground', probe.ground)}
      {one('own', probe.unmixed)}
      <span>{Math.round(probe.alpha * 100)} % covered</span>
    </span>
  );
}
