import type { Corners } from '../../../../core/geometry/projective';
import { takeMark, takeWholeSheet } from '../../../../core/recipe/takeMark';
import type { StageValues } from '../../../../core/stages';
import type { MarkFact } from '../../../../core/stages/cutOutFacts';
import type { Bench, BenchProps, PictureTools, TrailStage } from '../Bench';
import { masterOf } from '../../../data/useEngine';
import { CropPanel } from '../panels/CropPanel';
import { CropFrame } from '../picture/CropFrame';
import { CandidateBoxes, CornerHandles, LevelLine } from '../picture/SheetOverlays';

type Values = StageValues['crop'];

/** Tools of this stage. */
const LINE = 'line';
const CORNERS = 'corners';

export const cropStage: TrailStage = {
  id: 'crop',
  title: 'Crop',
  Panel,
  Overlay,
  wantsCandidates: true,
  before({ candidates, mark, engine, tool }, isClose) {
    const whole = (isClose ? engine.originalFull : null) ?? engine.original;
    const isFlat = tool !== CORNERS && candidates?.sheet;
    if (isFlat) return { bitmap: candidates.sheet, width: candidates.width, height: candidates.height };
    return { bitmap: whole?.original ?? null, width: mark.width, height: mark.height };
  },
  hint({ tool }) {
    if (tool === LINE) return 'Draw a line along the writing. Esc cancels.';
    return tool === CORNERS ? 'Drag the four corners of the sheet.' : null;
  },
  bead: ({ engine, mark, values }) => ({
    // A whole picture is its own crop.
    bitmap: engine.beads.crop ?? (values.crop.rect ? undefined : engine.original?.original),
    ground: mark.source === 'drawing' || mark.found.way === 'transparent' ? 'checker' : 'plain',
  }),
  status({ values: { crop } }) {
    if (crop.rect) return <span>{`${Math.round(crop.rect.width)} × ${Math.round(crop.rect.height)} px`}</span>;
    return <span>{crop.corners ? 'put flat' : 'whole'}</span>;
  },
};

const nounOf = ({ values }: Bench) => (values.cutOut.way === 'paper' ? 'Signature' : 'Mark');

/** The recipe that takes one mark of the sheet; files whose size nobody typed follow it. */
const recipeFor = (bench: Bench, found: MarkFact) => ({
  ...bench.recipe,
  stages: takeMark(bench.values, found, bench.candidates ?? bench.mark),
});

const take = (bench: Bench, found: MarkFact) =>
  bench.draft.commit(recipeFor(bench, found), `Take ${nounOf(bench).toLowerCase()} ${found.number}`);

function Panel({ bench }: BenchProps) {
  const { mark, values, candidates, sheet, tool } = bench;
  const makeMarks = (found: readonly MarkFact[]) => {
    const marks = found.map((m) => ({ name: `${mark.name} ${m.number}`, recipe: recipeFor(bench, m) }));
    void sheet.makeMarks(marks);
  };
  return (
    <CropPanel
      mark={mark}
      values={values.crop}
      chosen={values.cutOut.mark}
      candidates={candidates}
      mode={tool === LINE || tool === CORNERS ? tool : 'region'}
      frameExtents={masterOf(bench.shown)?.extents ?? null}
      isBusy={sheet.isBusy}
      noun={nounOf(bench)}
      gap={bench.sheetGap}
      onGap={bench.setSheetGap}
      onMode={(mode) => bench.setTool(mode === 'region' ? null : mode)}
      onChange={(crop, why) => bench.commit('crop', crop, why)}
      onTake={(found) => take(bench, found)}
      onWhole={() => bench.commitAll(takeWholeSheet(values), 'Take the whole sheet')}
      onMakeMarks={makeMarks}
    />
  );
}

function Overlay({ bench, tools }: BenchProps & { tools: PictureTools }) {
  const { values, candidates, tool, mark } = bench;
  const { crop } = values;
  const { view, frame } = tools;
  const change = (next: Values, isFinal: boolean, why = 'Crop') =>
    isFinal ? bench.commit('crop', next, why) : bench.preview('crop', next);
  if (tool === CORNERS) {
    const corners = crop.corners ?? candidates?.corners ?? startCorners(mark);
    return (
      <CornerHandles
        corners={corners}
        view={view}
        onChange={(next, isFinal) =>
          change({ ...crop, rect: null, turn: 0, corners: next }, isFinal, 'Set the sheet’s corners')
        }
      />
    );
  }
  const found = candidates?.marks ?? [];
  return (
    <>
      {found.length > 1 && (
        <CandidateBoxes
          noun={nounOf(bench)}
          marks={found}
          taken={values.cutOut.mark}
          view={view}
          onTake={(m) => take(bench, m)}
        />
      )}
      {(crop.rect !== null || found.length < 2) && (
        <CropFrame
          rect={crop.rect ?? { x: 0, y: 0, ...frame }}
          turnDeg={crop.rect ? crop.turn : 0}
          width={frame.width}
          height={frame.height}
          view={view}
          onChange={(rect, isFinal) => change({ ...crop, rect }, isFinal)}
        />
      )}
      {tool === LINE && (
        <LevelLine
          onDrawn={(turn) => {
            change({ ...crop, turn }, true, 'Straighten along a line');
            bench.setTool(null);
          }}
        />
      )}
    </>
  );
}

/** Where nothing is known of the sheet, its corners start this far inside the picture. */
const INSET = 0.08;

const startCorners = ({ width: w, height: h }: { width: number; height: number }): Corners => {
  const [x, y] = [Math.round(w * INSET), Math.round(h * INSET)];
  return [
    { x, y },
    { x: w - x, y },
    { x: w - x, y: h - y },
    { x, y: h - y },
  ];
};
