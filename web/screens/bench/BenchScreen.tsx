import './bench.css';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Navigate, useLocation, useNavigate, useParams } from 'react-router';
import type { GroundView, MarkView } from '../../../contract/views';
import type { StageValues } from '../../../core/stages';
import { Failed, Waiting } from '../../components/Waiting';
import { groundsQuery, markQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { FilesStage } from '../files/FilesStage';
import { VariantsStage } from '../variants/VariantsStage';
import { ProofStrip } from './ProofStrip';
import { Trail, type TrailStage, trailStages } from './Trail';
import { PictureView } from './picture/PictureView';
import { CropPanel } from './panels/CropPanel';
import { CutOutPanel } from './panels/CutOutPanel';
import { OriginalPanel } from './panels/OriginalPanel';
import { Findings } from './panels/Findings';
import { proofGrounds, useEngine } from './useEngine';
import { useRecipeDraft } from './useRecipeDraft';

/** One mark from original to files. */
export function BenchScreen() {
  const { markId = '', stage = 'cutOut' } = useParams();
  const mark = useQuery(markQuery(markId));
  const { brand, brands } = useBrand();
  const own = brands.find((b) => b.id === mark.data?.brandId) ?? brand;
  const photos = useQuery({ ...groundsQuery(own?.id ?? ''), enabled: own !== null });
  if (!trailStages.some((s) => s.id === stage)) return <Navigate to={`/marks/${markId}/cutOut`} replace />;
  if (mark.error) return <Failed error={mark.error} onRetry={() => void mark.refetch()} />;
  if (!mark.data || !own || photos.isLoading) return <Waiting what="the mark" />;
  return <Bench key={mark.data.id} mark={mark.data} stage={stage as TrailStage} palette={own.palette} photos={photos.data ?? NO_PHOTOS} brandName={own.name} />;
}

const NO_PHOTOS: readonly GroundView[] = [];

interface BenchProps {
  readonly mark: MarkView;
  readonly stage: TrailStage;
  readonly palette: readonly { name: string; hex: string }[];
  readonly photos: readonly GroundView[];
  readonly brandName: string;
}

function Bench({ mark, stage, palette, photos, brandName }: BenchProps) {
  const draft = useRecipeDraft(mark);
  const grounds = useMemo(() => proofGrounds(palette, photos), [palette, photos]);
  const engine = useEngine(mark, draft.recipe.stages, grounds);
  const [groundId, setGroundId] = useState<string | null>(null);
  const [isPicking, setPicking] = useState(false);
  const navigate = useNavigate();
  const { state: arrival } = useLocation() as { state: { justTakenIn?: boolean; isDuplicate?: boolean } | null };
  useHotkeys('mod+z', () => draft.canUndo && draft.undo(), { preventDefault: true }, [draft]);
  useHotkeys('mod+shift+z, mod+y', () => draft.canRedo && draft.redo(), { preventDefault: true }, [draft]);
  useHotkeys('escape', () => setPicking(false));

  const withStage = <K extends keyof StageValues>(id: K, values: StageValues[K]) => ({ ...draft.recipe, stages: { ...draft.recipe.stages, [id]: values } });
  const { crop, cutOut } = draft.recipe.stages;
  const shown = engine.full ?? engine.quick;
  const ground = grounds.find((g) => g.id === groundId) ?? null;
  const pickGround = (hex: string) => {
    setPicking(false);
    draft.commit(withStage('cutOut', { ...cutOut, way: 'flat', ground: [hex], tolerance: null }), 'Pick the ground');
  };
  const toggleArea = (x: number, y: number, decision: 'open' | 'solid') => {
    const others = cutOut.areas.filter((a) => Math.hypot(a.x - x, a.y - y) > 0.5);
    draft.commit(withStage('cutOut', { ...cutOut, areas: [...others, { x, y, decision }] }), decision === 'open' ? 'Open an area' : 'Make an area solid');
  };

  return (
    <div className={`bench stage-${stage}`}>
      <Trail mark={mark} stage={stage} engine={engine} recipe={draft.recipe} draft={draft} onGo={(id) => void navigate(`/marks/${mark.id}/${id}`)} />
      {stage === 'variants' && <VariantsStage draft={draft} engine={engine} grounds={grounds} />}
      {stage === 'files' && <FilesStage mark={mark} draft={draft} engine={engine} brandName={brandName} />}
      {stage !== 'variants' && stage !== 'files' && (
        <>
          <div className="bench-room">
            <PictureView
              stage={stage} mark={mark} engine={engine} ground={ground} crop={crop.rect} values={draft.recipe.stages} isPicking={isPicking}
              onPick={pickGround} onToggleArea={toggleArea}
              onCrop={(rect, isFinal) => (isFinal ? draft.commit(withStage('crop', { rect }), 'Crop') : draft.preview(withStage('crop', { rect })))}
            />
            <aside className="bench-panel" aria-label="Settings of this stage">
              {arrival?.isDuplicate && <p className="finding note"><b>Here already.</b> The same file was taken in before; this is its mark.</p>}
              {arrival?.justTakenIn && stage === 'cutOut' && <p className="finding note"><b>Taken in.</b> {mark.found.sentence}</p>}
              {(draft.problem ?? engine.problem) && <p className="finding" role="alert">{draft.problem ?? engine.problem}</p>}
              {stage === 'original' && <OriginalPanel mark={mark} />}
              {stage === 'crop' && <CropPanel mark={mark} rect={crop.rect} extents={shown?.extents ?? null} onChange={(rect) => draft.commit(withStage('crop', { rect }), rect ? 'Crop' : 'Take the whole picture')} />}
              {stage === 'cutOut' && (
                <CutOutPanel
                  values={cutOut} facts={shown?.facts ?? null} found={mark.found} isPicking={isPicking} onPickGround={() => setPicking(!isPicking)} onToggleArea={toggleArea}
                  onPreview={(v) => draft.preview(withStage('cutOut', v))} onCommit={(v, why) => draft.commit(withStage('cutOut', v), why)}
                />
              )}
              {stage === 'cutOut' && shown && <Findings findings={shown.findings} />}
            </aside>
          </div>
          <ProofStrip grounds={grounds} shown={engine.quick} chosen={groundId} onChoose={(id) => setGroundId(id === groundId ? null : id)} />
        </>
      )}
    </div>
  );
}
