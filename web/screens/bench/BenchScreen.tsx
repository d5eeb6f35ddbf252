import './bench.css';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Navigate, useLocation, useNavigate, useParams } from 'react-router';
import { paths } from '../../../contract/paths';
import type { BrandView, GroundView, MarkView } from '../../../contract/views';
import type { Finding, Fix } from '../../../core/findings/finding';
import { takeMark, takeWholeSheet } from '../../../core/recipe/takeMark';
import type { StageValues } from '../../../core/stages';
import { chooseAreas } from '../../../core/stages/areaChoices';
import type { AreaFact, MarkFact } from '../../../core/stages/cutOutFacts';
import { Failed, Waiting } from '../../components/Waiting';
import { send } from '../../data/http';
import { brandsQuery, groundsQuery, markQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { wordsFor } from '../../messages';
import { FilesStage } from '../files/FilesStage';
import { VariantsStage } from '../variants/VariantsStage';
import { ProofStrip } from './ProofStrip';
import { Trail, type TrailStage, trailStages } from './Trail';
import { type CropMode, PictureView } from './picture/PictureView';
import type { Visit } from './picture/Magnifier';
import { CropPanel } from './panels/CropPanel';
import { CutOutPanel } from './panels/CutOutPanel';
import { OriginalPanel } from './panels/OriginalPanel';
import { Findings } from './panels/Findings';
import { useCandidates } from './useCandidates';
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
  return (
    <Bench
      key={mark.data.id}
      mark={mark.data}
      stage={stage as TrailStage}
      brand={own}
      photos={photos.data ?? NO_PHOTOS}
    />
  );
}

const NO_PHOTOS: readonly GroundView[] = [];

interface BenchProps {
  readonly mark: MarkView;
  readonly stage: TrailStage;
  readonly brand: BrandView;
  readonly photos: readonly GroundView[];
}

function Bench({ mark, stage, brand, photos }: BenchProps) {
  const draft = useRecipeDraft(mark);
  const grounds = useMemo(() => proofGrounds(brand.palette, photos), [brand.palette, photos]);
  const engine = useEngine(mark, draft.recipe.stages, grounds, draft.isMoving);
  const candidates = useCandidates(engine, draft.recipe.stages, stage === 'crop');
  const [groundId, setGroundId] = useState<string | null>(null);
  const [isPicking, setPicking] = useState(false);
  const [cropMode, setCropMode] = useState<CropMode>('region');
  const [visit, setVisit] = useState<Visit | null>(null);
  const sheet = useSheetActions(mark);
  const navigate = useNavigate();
  const { state: arrival } = useLocation() as { state: { justTakenIn?: boolean; isDuplicate?: boolean } | null };
  useHotkeys('mod+z', () => draft.canUndo && draft.undo(), { preventDefault: true }, [draft]);
  useHotkeys('mod+shift+z, mod+y', () => draft.canRedo && draft.redo(), { preventDefault: true }, [draft]);
  useHotkeys('escape', () => {
    setPicking(false);
    setCropMode('region');
    setVisit(null);
  });

  const stages = draft.recipe.stages;
  const { crop, cutOut } = stages;
  const withStages = (values: StageValues) => ({ ...draft.recipe, stages: values });
  const withStage = <K extends keyof StageValues>(id: K, values: StageValues[K]) =>
    withStages({ ...stages, [id]: values });
  const shown = engine.full ?? engine.quick;
  const ground = grounds.find((g) => g.id === groundId) ?? null;
  const pickGround = (hex: string) => {
    setPicking(false);
    draft.commit(
      withStage('cutOut', {
        ...cutOut,
        way: 'flat',
        ground: [...cutOut.ground.filter((h) => h !== hex), hex],
        tolerance: null,
      }),
      'Pick the ground',
    );
  };
  const chooseAll = (areas: readonly AreaFact[], decision: 'open' | 'solid') =>
    draft.commit(
      withStage('cutOut', { ...cutOut, areas: chooseAreas(cutOut.areas, areas, decision) }),
      `${decision === 'open' ? 'Open' : 'Make solid'} ${areas.length === 1 ? 'an area' : `${areas.length} areas`}`,
    );
  const changeCrop = (values: StageValues['crop'], isFinal: boolean, why = 'Crop') =>
    isFinal ? draft.commit(withStage('crop', values), why) : draft.preview(withStage('crop', values));
  const take = (found: MarkFact) =>
    draft.commit(
      withStages(takeMark(stages, found, candidates ?? mark)),
      `Take ${cutOut.way === 'paper' ? 'signature' : 'mark'} ${found.number}`,
    );
  const fix = (finding: Finding, { label, change }: Fix) =>
    draft.commit(
      withStages({
        ...stages,
        [finding.stage]: { ...stages[finding.stage as keyof StageValues], ...change },
      } as StageValues),
      label,
    );

  return (
    <div className={`bench stage-${stage}`}>
      <Trail
        mark={mark}
        stage={stage}
        engine={engine}
        recipe={draft.recipe}
        draft={draft}
        onGo={(id) => void navigate(`/marks/${mark.id}/${id}`)}
      />
      {stage === 'variants' && <VariantsStage draft={draft} engine={engine} grounds={grounds} />}
      {stage === 'files' && <FilesStage mark={mark} draft={draft} engine={engine} brandName={brand.name} />}
      {stage !== 'variants' && stage !== 'files' && (
        <>
          <div className="bench-room">
            <PictureView
              key={stage}
              stage={stage}
              mark={mark}
              engine={engine}
              ground={ground}
              crop={crop}
              values={stages}
              isPicking={isPicking}
              candidates={candidates}
              cropMode={cropMode}
              visit={visit}
              onVisit={setVisit}
              onPick={pickGround}
              onChoose={chooseAll}
              onCrop={changeCrop}
              onTake={take}
              onCropMode={setCropMode}
            />
            <aside className="bench-panel" aria-label="Settings of this stage">
              {arrival?.isDuplicate && (
                <p className="finding note">
                  <b>Here already.</b> The same file was taken in before; this is its mark.
                </p>
              )}
              {arrival?.justTakenIn && stage !== 'original' && (
                <p className="finding note">
                  <b>Taken in.</b> {mark.found.sentence}
                </p>
              )}
              {(draft.problem ?? engine.problem ?? sheet.problem) && (
                <p className="finding" role="alert">
                  {draft.problem ?? engine.problem ?? sheet.problem}
                </p>
              )}
              {stage === 'original' && <OriginalPanel mark={mark} />}
              {stage === 'crop' && (
                <CropPanel
                  mark={mark}
                  values={crop}
                  chosen={cutOut.mark}
                  candidates={candidates}
                  mode={cropMode}
                  frameExtents={shown?.extents ?? null}
                  isBusy={sheet.isBusy}
                  isInk={cutOut.way === 'paper'}
                  onMode={setCropMode}
                  onChange={(values, why) => changeCrop(values, true, why)}
                  onTake={take}
                  onWhole={() => draft.commit(withStages(takeWholeSheet(stages)), 'Take the whole sheet')}
                  onMakeMarks={(found) =>
                    void sheet.makeMarks(
                      found.map((m) => ({
                        name: `${mark.name} ${m.number}`,
                        recipe: withStages(takeMark(stages, m, candidates ?? mark)),
                      })),
                    )
                  }
                />
              )}
              {stage === 'cutOut' && (
                <CutOutPanel
                  values={cutOut}
                  facts={shown?.facts ?? null}
                  found={mark.found}
                  palette={brand.palette}
                  isPicking={isPicking}
                  onPickGround={() => setPicking(!isPicking)}
                  onChoose={chooseAll}
                  onAddColour={(hex) => void sheet.addColour(brand, hex)}
                  onPreview={(v) => draft.preview(withStage('cutOut', v))}
                  onCommit={(v, why) => draft.commit(withStage('cutOut', v), why)}
                />
              )}
              {stage === 'cutOut' && shown && (
                <Findings findings={shown.findings} onShow={(f) => setVisit({ finding: f.id, at: 0 })} onFix={fix} />
              )}
            </aside>
          </div>
          <ProofStrip
            grounds={grounds}
            shown={engine.quick}
            chosen={groundId}
            onChoose={(id) => setGroundId(id === groundId ? null : id)}
          />
        </>
      )}
    </div>
  );
}

/** What goes beyond the mark's own recipe: marks of their own from one sheet, and colours for the palette. */
function useSheetActions(mark: MarkView) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const during = useCallback(async (work: () => Promise<void>) => {
    setBusy(true);
    setProblem(null);
    await work().catch((error: unknown) => setProblem(wordsFor(error)));
    setBusy(false);
  }, []);
  const makeMarks = useCallback(
    (marks: readonly { name: string; recipe: unknown }[]) =>
      during(async () => {
        await send<MarkView[]>('POST', paths.markSiblings(mark.id), { marks });
        await queries.invalidateQueries({ queryKey: ['marks'] });
        void navigate('/marks');
      }),
    [during, mark.id, queries, navigate],
  );
  const addColour = useCallback(
    (brand: BrandView, hex: string) =>
      during(async () => {
        await send<BrandView>('PATCH', paths.brand(brand.id), {
          palette: [...brand.palette, { name: `Ink of ${mark.name}`.slice(0, 60), hex }],
        });
        await queries.invalidateQueries(brandsQuery());
      }),
    [during, mark.name, queries],
  );
  return { makeMarks, addColour, problem, isBusy };
}
