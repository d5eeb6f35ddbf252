import type { StageValues } from '../../../../core/stages';
import type { Engine } from '../../../data/useEngine';
import type { Place } from './frame';
import { useProbe } from './useProbe';

/**
 * The numbers of the pixel under the pointer: its colour, the ground's, its own once freed from the ground, and how
 * much it covers.
 */
export function HoverNumbers({ engine, values, at }: { engine: Engine; values: StageValues; at: Place | null }) {
  const probe = useProbe(engine, values, at);
  if (!probe) return <span />;
  const one = (name: string, hex: string | null) =>
    hex && (
      <span className="swatch" key={name}>
        {name} <i style={{ background: hex }} />
        <span className="hex">{hex.toUpperCase()}</span>
      </span>
    );
  return (
    <span className="hover-numbers small" aria-hidden="true">
      {one('original', probe.original)}
      {one('ground', probe.ground)}
      {one('unmixed', probe.unmixed)}
      <span>opacity {Math.round(probe.alpha * 100)} %</span>
    </span>
  );
}
