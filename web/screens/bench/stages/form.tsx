import { type StageId, type StageValues, stages } from '../../../../core/stages';
import { SettingsForm } from '../../../components/SettingsForm';
import type { BenchProps, TrailStage } from '../Bench';
import { Measuring } from '../panels/Measuring';

/** A stage as its registry describes it: its result against what was before, and a form of its settings. */
export function formStage(id: StageId): TrailStage {
  const stage = stages.get(id);
  const Panel = ({ bench }: BenchProps) => (
    <>
      <header>
        <h2>{stage.title}</h2>
      </header>
      {!bench.shown && <Measuring />}
      <SettingsForm
        fields={stage.params}
        values={bench.values[id]}
        palette={bench.brand.palette}
        onPreview={(values) => bench.preview(id, values as unknown as StageValues[typeof id])}
        onCommit={(values, why) => bench.commit(id, values as unknown as StageValues[typeof id], why)}
      />
    </>
  );
  return {
    id,
    title: stage.title,
    Panel,
    showsResult: true,
    bead: ({ engine }) => ({ bitmap: engine.beads[id], ground: 'checker' }),
    status: ({ shown }) => {
      const found = shown?.perStage[id].findings.filter((f) => f.weight !== 'note') ?? [];
      return found.length > 0 ? <span className="warn">{found[0].title}</span> : <span>done</span>;
    },
  };
}
