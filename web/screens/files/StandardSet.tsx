import type { StandardLine } from '../../../core/recipe/standardLines';

interface Props {
  readonly lines: readonly StandardLine[] | null;
  readonly onUse: () => void;
  readonly onKeep: () => void;
}

/** The lines that the brand delivers by: taken over in one press, or set from this mark's. */
export function StandardSet({ lines, onUse, onKeep }: Props) {
  return (
    <span className="standard-set small">
      <span className="soft">Standard set:</span>
      {lines ? (
        <button type="button" className="plain small" onClick={onUse}>
          use its {lines.length} {lines.length === 1 ? 'line' : 'lines'}
        </button>
      ) : (
        <span className="soft">none yet</span>
      )}
      <button
        type="button"
        className="plain small"
        title="What this mark delivers becomes the brand’s"
        onClick={onKeep}
      >
        set from these
      </button>
    </span>
  );
}
