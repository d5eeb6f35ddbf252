import { useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { unlessWriting } from '../../components/benchKeys';
import { useNavigate } from 'react-router';
import type { BrandView, GroundView, MarkView } from '../../../contract/views';
import { type StageId, type StageValues, stageIds } from '../../../core/stages';
import { proofGrounds } from '../../data/proofGrounds';
import { useEngine } from '../../data/useEngine';
import { useRecipeDraft } from '../../data/useRecipeDraft';
import type { Bench, TrailStage } from './Bench';
import type { Visit } from './picture/Magnifier';
import { useCandidates } from './useCandidates';
import { useSheetActions } from './useSheetActions';

interface Given {
  readonly mark: MarkView;
  readonly brand: BrandView;
  readonly photos: readonly GroundView[];
  readonly stage: TrailStage;
}

/** One mark on the bench, with one stage open. */
export function useBench({ mark, brand, photos, stage }: Given): Bench {
  const draft = useRecipeDraft(mark);
  const { recipe } = draft;
  const values = recipe.stages;
  const grounds = useMemo(() => proofGrounds(brand.palette, photos), [brand.palette, photos]);
  const open = (stageIds as readonly string[]).includes(stage.id) ? (stage.id as StageId) : null;
  const engine = useEngine(mark, values, grounds, open, draft.isMoving);
  const [sheetGap, setSheetGap] = useState<number | null>(null);
  const candidates = useCandidates(engine, values, stage.wantsCandidates ?? false, sheetGap);
  const sheet = useSheetActions(mark);
  const [tool, setTool] = useState<string | null>(null);
  const [visit, setVisit] = useState<Visit | null>(null);
  const navigate = useNavigate();
  useHotkeys('mod+z', () => draft.canUndo && draft.undo(), unlessWriting, [draft]);
  useHotkeys('mod+shift+z, mod+y', () => draft.canRedo && draft.redo(), unlessWriting, [draft]);
  useHotkeys(
    'escape',
    () => {
      setTool(null);
      setVisit(null);
    },
    unlessWriting,
  );
  const withStages = (stages: StageValues) => ({ ...recipe, stages });
  return {
    mark,
    brand,
    draft,
    recipe,
    values,
    engine,
    shown: engine.full ?? engine.quick,
    grounds,
    candidates,
    sheetGap,
    setSheetGap,
    sheet,
    tool,
    setTool,
    visit,
    setVisit,
    preview: (id, own) => draft.preview(withStages({ ...values, [id]: own })),
    commit: (id, own, why) => draft.commit(withStages({ ...values, [id]: own }), why),
    commitAll: (all, why) => draft.commit(withStages(all), why),
    go: (id) => void navigate(`/marks/${mark.id}/${id}`),
  };
}
