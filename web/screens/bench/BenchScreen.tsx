import './bench.css';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Navigate, useLocation, useParams } from 'react-router';
import type { BrandView, GroundView, MarkView } from '../../../contract/views';
import type { StageValues } from '../../../core/stages';
import { Failed, Waiting } from '../../components/Waiting';
import { groundsQuery, markQuery } from '../../data/queries';
import { useBrandOf } from '../../data/useBrand';
import type { TrailStage } from './Bench';
import { ConflictDialog } from './ConflictDialog';
import { ProofStrip } from './ProofStrip';
import { Trail } from './Trail';
import { Findings } from './panels/Findings';
import { PictureView } from './picture/PictureView';
import { FIRST_STAGE, trail } from './stages';
import { useBench } from './useBench';

/** One mark from original to files. */
export function BenchScreen() {
  const { markId = '', stage: id = FIRST_STAGE } = useParams();
  const mark = useQuery(markQuery(markId));
  const own = useBrandOf(mark.data?.brandId);
  const photos = useQuery({ ...groundsQuery(own?.id ?? ''), enabled: own !== null });
  const stage = trail.find((s) => s.id === id);
  if (!stage) return <Navigate to={`/marks/${markId}/${FIRST_STAGE}`} replace />;
  if (mark.error) return <Failed error={mark.error} onRetry={() => void mark.refetch()} />;
  if (!mark.data || !own || photos.isLoading) return <Waiting what="the mark" />;
  return (
    <OnTheBench
      key={`${mark.data.id} ${mark.data.sourceKey}`}
      mark={mark.data}
      stage={stage}
      brand={own}
      photos={photos.data ?? NO_PHOTOS}
    />
  );
}

const NO_PHOTOS: readonly GroundView[] = [];

interface Props {
  readonly mark: MarkView;
  readonly stage: TrailStage;
  readonly brand: BrandView;
  readonly photos: readonly GroundView[];
}

function OnTheBench(props: Props) {
  const { mark, stage } = props;
  const bench = useBench(props);
  const [groundId, setGroundId] = useState<string | null>(null);
  const { Room, Panel } = stage;
  const ground = bench.grounds.find((g) => g.id === groundId) ?? null;
  return (
    <div className={`bench stage-${stage.id}`}>
      <Trail bench={bench} stage={stage} />
      <ConflictDialog bench={bench} />
      {Room ? (
        <Room bench={bench} />
      ) : (
        <>
          <div className="bench-work">
            <PictureView key={stage.id} bench={bench} stage={stage} ground={ground} />
            <aside className="bench-panel" aria-label="Settings of this stage">
              <Arrival mark={mark} isFirst={stage.id === trail[0].id} />
              <Problem words={bench.draft.problem ?? bench.engine.problem ?? bench.sheet.problem} />
              {Panel && <Panel bench={bench} />}
              <StageFindings bench={bench} stage={stage} />
            </aside>
          </div>
          <ProofStrip
            grounds={bench.grounds}
            shown={bench.engine.quick}
            chosen={groundId}
            onChoose={(id) => setGroundId(id === groundId ? null : id)}
          />
        </>
      )}
    </div>
  );
}

const Problem = ({ words }: { words: string | null }) =>
  words && (
    <p className="finding" role="alert">
      {words}
    </p>
  );

/** What became of a file that was dropped a moment ago. */
function Arrival({ mark, isFirst }: { mark: MarkView; isFirst: boolean }) {
  const { state } = useLocation() as { state: { justTakenIn?: boolean; isDuplicate?: boolean } | null };
  if (state?.isDuplicate)
    return (
      <p className="finding note">
        <b>Here already.</b> The same file was taken in before; this is its mark.
      </p>
    );
  if (!state?.justTakenIn || isFirst) return null;
  return (
    <p className="finding note">
      <b>Taken in.</b> {mark.found.sentence}
    </p>
  );
}

function StageFindings({ bench, stage }: { bench: ReturnType<typeof useBench>; stage: TrailStage }) {
  const own = bench.shown?.perStage[stage.id as keyof StageValues];
  if (!own) return null;
  const id = stage.id as keyof StageValues;
  return (
    <Findings
      isOld={bench.engine.isSettling}
      findings={own.findings}
      onShow={(f) => bench.setVisit({ finding: f.id, at: 0 })}
      onFix={(_, { label, change }) => bench.commit(id, { ...bench.values[id], ...change } as never, label)}
    />
  );
}
