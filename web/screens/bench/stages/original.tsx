import type { TrailStage } from '../Bench';
import { OriginalPanel } from '../panels/OriginalPanel';

export const originalStage: TrailStage = {
  id: 'original',
  title: 'Original',
  Panel: ({ bench }) => <OriginalPanel mark={bench.mark} />,
  bead: ({ engine }) => ({ bitmap: engine.original?.original, ground: 'plain' }),
  status: ({ mark }) => (
    <span>
      {mark.found.format} {mark.source === 'drawing' ? 'paths' : `${mark.width} px`}
    </span>
  ),
};
