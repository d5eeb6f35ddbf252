import { FilesStage } from '../../files/FilesStage';
import type { BenchProps, TrailStage } from '../Bench';

export const filesStage: TrailStage = {
  id: 'files',
  title: 'Files',
  Room: ({ bench }: BenchProps) => (
    <FilesStage mark={bench.mark} draft={bench.draft} shown={bench.shown} brandName={bench.brand.name} />
  ),
  bead: ({ recipe }) => ({ ground: 'plain', count: recipe.files.lines.length }),
  status: ({ recipe: { files } }) => (
    <span>{files.lines.length === 0 ? 'none yet' : `${files.lines.length} to make`}</span>
  ),
};
