import { GradientsContext } from '../../../components/ColourLists';
import { VariantsStage } from '../../variants/VariantsStage';
import type { BenchProps, TrailStage } from '../Bench';
import { lastBead } from './lastBead';

export const variantsStage: TrailStage = {
  id: 'variants',
  title: 'Variants',
  Room: ({ bench }: BenchProps) => (
    <GradientsContext value={bench.brand.gradients}>
      <VariantsStage
        markId={bench.mark.id}
        name={bench.mark.name}
        draft={bench.draft}
        engine={bench.engine}
        grounds={bench.grounds}
        palette={bench.brand.palette}
        onStartSet={(variants) => void bench.sheet.setStart(bench.brand, variants)}
      />
    </GradientsContext>
  ),
  bead: (bench) => ({ bitmap: lastBead(bench), ground: 'split' }),
  status: ({ recipe }) => <span>{recipe.variants.length}</span>,
};
