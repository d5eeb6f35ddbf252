import { useCallback } from 'react';
import type { MarkView } from '../../../contract/views';
import type { Recipe } from '../../../core/recipe/recipe';
import { areasOf, marksOf } from '../../../core/stages/cutOutFacts';
import { Canvas, fillChecker, fitBox } from '../../components/Canvas';
import type { Engine } from './useEngine';
import type { RecipeDraft } from './useRecipeDraft';

export const trailStages = [
  { id: 'original', title: 'Original' },
  { id: 'crop', title: 'Crop' },
  { id: 'cutOut', title: 'Cut out' },
  { id: 'variants', title: 'Variants' },
  { id: 'files', title: 'Files' },
] as const;
export type TrailStage = (typeof trailStages)[number]['id'];

interface Props {
  readonly mark: MarkView;
  readonly stage: TrailStage;
  readonly engine: Engine;
  readonly recipe: Recipe;
  readonly draft: RecipeDraft;
  readonly onGo: (stage: TrailStage) => void;
}

/** The stages as beads on one thread, each a live picture of the mark as it is after that stage. */
export function Trail({ mark, stage, engine, recipe, draft, onGo }: Props) {
  return (
    <div className="trail">
      <div className="trail-name">
        <h2>{mark.name}</h2>
        <span className="soft small">
          {mark.kind === 'logo' ? 'Logo' : 'Signature'} · {mark.state} · {draft.isSaving ? 'storing' : 'stored'}
        </span>
        <span className="trail-steps">
          <button
            type="button"
            className="plain small"
            disabled={!draft.canUndo}
            onClick={draft.undo}
            title="Undo, Ctrl Z"
          >
            Undo
          </button>
          <button
            type="button"
            className="plain small"
            disabled={!draft.canRedo}
            onClick={draft.redo}
            title="Redo, Ctrl Shift Z"
          >
            Redo
          </button>
        </span>
      </div>
      <nav className="trail-beads" aria-label="Stages">
        {trailStages.map((s) => (
          <button
            key={s.id}
            type="button"
            className="bead"
            aria-current={s.id === stage ? 'step' : undefined}
            onClick={() => onGo(s.id)}
          >
            <Bead stage={s.id} engine={engine} recipe={recipe} />
            <span className="bead-words">
              <b>{s.title}</b>
              <Status stage={s.id} mark={mark} engine={engine} recipe={recipe} />
            </span>
          </button>
        ))}
      </nav>
    </div>
  );
}

function Status({ stage, mark, engine, recipe }: Omit<Props, 'draft' | 'onGo'>) {
  const facts = engine.quick?.facts;
  const areas = areasOf(facts);
  const unsure = areas.filter((a) => a.isUnsure).length;
  const { rect } = recipe.stages.crop;
  if (stage === 'original')
    return (
      <span>
        {mark.found.format} {mark.width} px
      </span>
    );
  if (stage === 'crop')
    return (
      <span>
        {rect
          ? `${Math.round(rect.width)} × ${Math.round(rect.height)} px`
          : recipe.stages.crop.corners
            ? 'put flat'
            : 'whole'}
      </span>
    );
  if (stage === 'variants') return <span>{recipe.variants.length}</span>;
  if (stage === 'files')
    return <span>{recipe.files.lines.length === 0 ? 'none yet' : `${recipe.files.lines.length} to make`}</span>;
  if (recipe.stages.cutOut.way === 'keep') return <span>own transparency</span>;
  if (recipe.stages.cutOut.way === 'paper')
    return (
      <span>
        {marksOf(facts).length > 1 && !recipe.stages.cutOut.mark
          ? `${marksOf(facts).length} signatures`
          : 'ink on paper'}
      </span>
    );
  return unsure ? (
    <span className="warn">{unsure} unsure</span>
  ) : (
    <span>{areas.length > 1 ? `${areas.length} areas` : areas.length ? '1 area' : 'done'}</span>
  );
}

function Bead({ stage, engine, recipe }: { stage: TrailStage; engine: Engine; recipe: Recipe }) {
  const { original, quick } = engine;
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      context.imageSmoothingQuality = 'high';
      if (!original) return;
      const bitmap = original.original;
      if (stage === 'original' || stage === 'crop') {
        const shown = stage === 'crop' ? (quick?.cropped ?? bitmap) : bitmap;
        const cover = Math.max(w / shown.width, h / shown.height) * (stage === 'original' ? 1 : 0.94);
        context.drawImage(
          shown,
          (w - shown.width * cover) / 2,
          (h - shown.height * cover) / 2,
          shown.width * cover,
          shown.height * cover,
        );
        return;
      }
      if (stage === 'variants') {
        context.fillStyle = '#f6f6f6';
        context.fillRect(0, 0, w, h);
        context.fillStyle = '#1c1b1d';
        context.beginPath();
        context.moveTo(w, 0);
        context.lineTo(w, h);
        context.lineTo(0, h);
        context.fill();
      } else if (stage === 'cutOut') fillChecker(context, 0, 0, w, h, 6);
      if (!quick || stage === 'files') return;
      const { extents: e, result } = quick;
      if (!e || !result) return;
      const to = fitBox(e.width, e.height, w, h, 9);
      context.drawImage(result, to.x, to.y, to.width, to.height);
    },
    [original, quick, stage],
  );
  if (stage === 'files')
    return (
      <span className="bead-picture is-empty" aria-hidden="true">
        {recipe.files.lines.length || ''}
      </span>
    );
  return (
    <span className="bead-picture">
      <Canvas draw={draw} />
    </span>
  );
}
