import type { Variant } from '../../../core/recipe/recipe';
import type { VariantDone } from '../../../worker/protocol';
import { Sortable, useSortableItem } from '../../components/Sortable';
import type { ProofGround } from '../../data/proofGrounds';
import { VariantPicture } from './VariantPicture';
import { bestGround } from './bestOn';

interface Props {
  readonly variants: readonly Variant[];
  readonly shown: ReadonlyMap<string, VariantDone>;
  readonly grounds: readonly ProofGround[];
  readonly photoOf: (ground: ProofGround) => ImageBitmap | null;
  readonly open: string;
  readonly onOpen: (id: string) => void;
  readonly onOrder: (ids: string[]) => void;
}

/** All variants, small, each on the ground where it reads best; put in order by their handles. */
export function VariantStrip({ variants, open, onOpen, onOrder, ...rest }: Props) {
  return (
    <Sortable ids={variants.map((v) => v.id)} onOrder={onOrder}>
      <div className="variant-strip" role="group" aria-label="All variants">
        {variants.map((variant) => (
          <One
            key={variant.id}
            variant={variant}
            isOpen={variant.id === open}
            onOpen={() => onOpen(variant.id)}
            {...rest}
          />
        ))}
      </div>
    </Sortable>
  );
}

type OneProps = Pick<Props, 'shown' | 'grounds' | 'photoOf'> & {
  readonly variant: Variant;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
};

function One({ variant, shown, grounds, photoOf, isOpen, onOpen }: OneProps) {
  const { ref, style, handle } = useSortableItem(variant.id, variant.name);
  const done = shown.get(variant.id) ?? null;
  const ground = bestGround(done, grounds);
  return (
    <div ref={ref} style={style} className={`variant-small${isOpen ? ' is-open' : ''}`}>
      <button type="button" aria-pressed={isOpen} aria-label={`Open ${variant.name}`} onClick={onOpen}>
        <VariantPicture done={done} ground={ground} photo={photoOf(ground)} name={variant.name} isSmall />
      </button>
      <span className="variant-small-name">
        {handle}
        <span title={variant.name}>{variant.name}</span>
      </span>
    </div>
  );
}
