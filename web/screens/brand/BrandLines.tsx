import type { BrandView } from '../../../contract/views';
import { formats } from '../../../core/formats';
import { purposes } from '../../../core/purposes';
import type { OwnPurpose, StandardLine } from '../../../core/recipe/standardLines';
import { sizes } from '../../../core/sizes';

interface Props {
  readonly brand: BrandView;
  readonly onStandard: (lines: readonly StandardLine[] | null) => void;
  readonly onPurposes: (purposes: readonly OwnPurpose[]) => void;
}

const wordsOf = ({ size, format, purpose }: Pick<StandardLine, 'size' | 'format' | 'purpose'>) =>
  [
    sizes.get(size.id).describe(size.params as never),
    formats.get(format.id).title,
    purposes.get(purpose).title.toLowerCase(),
  ].join(', ');

/** What the brand delivers by: its standard lines, and purposes of its own. Both are set on a mark's Files stage. */
export function BrandLines({ brand: { standardLines, ownPurposes }, onStandard, onPurposes }: Props) {
  return (
    <>
      <h3>Standard lines</h3>
      {standardLines ? (
        <>
          <ul className="brand-set">
            {standardLines.map((line, k) => (
              <li key={k}>
                <b>{line.variant}</b> <span className="soft">{wordsOf(line)}</span>
              </li>
            ))}
          </ul>
          <button type="button" className="plain" onClick={() => onStandard(null)}>
            Deliver by none
          </button>
        </>
      ) : (
        <p className="soft small">
          None yet. A mark’s own lines become the standard on its Files stage, by “set from these”.
        </p>
      )}
      {ownPurposes.length > 0 && (
        <>
          <h3>Own purposes</h3>
          <ul className="brand-set">
            {ownPurposes.map((own) => (
              <li key={own.title}>
                <b>{own.title}</b> <span className="soft">{wordsOf(own)}</span>{' '}
                <button
                  type="button"
                  className="plain small"
                  aria-label={`Remove ${own.title}`}
                  onClick={() => onPurposes(ownPurposes.filter((p) => p !== own))}
                >
                  Remove
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
