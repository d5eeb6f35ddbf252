import { useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { rgbFromHex } from '../../../../core/colour/hex';
import { areaAt, chooseAreas, nextUnsure, questionsOf } from '../../../../core/stages/areaChoices';
import { type AreaFact, areasOf, marksOf } from '../../../../core/stages/cutOutFacts';
import type { Bench, BenchProps, PictureTools, Press, TrailStage } from '../Bench';
import { CutOutPanel } from '../panels/CutOutPanel';
import { AreaChips } from '../picture/AreaChips';
import { colourAt } from '../picture/colourAt';

/** Tool of this stage. */
const PICK = 'pick';

export const cutOutStage: TrailStage = {
  id: 'cutOut',
  title: 'Cut out',
  Panel,
  Overlay,
  showsResult: true,
  onPress(bench, press) {
    if (bench.tool === PICK) pickGround(bench, press);
    else if (press.tools.mode === 'result' || press.tools.mode === 'matte') void flipAt(bench, press);
  },
  hint: ({ tool }) => (tool === PICK ? 'Click the ground’s colour in the picture. Esc cancels.' : null),
  bead: ({ engine }) => ({ bitmap: engine.beads.cutOut, ground: 'checker' }),
  status({ shown, values: { cutOut } }) {
    if (cutOut.way === 'keep') return <span>own transparency</span>;
    if (!shown) return <span>being measured</span>;
    const marks = marksOf(shown.facts);
    if (cutOut.way === 'paper')
      return <span>{marks.length > 1 && !cutOut.mark ? `${marks.length} signatures` : 'ink on paper'}</span>;
    const areas = areasOf(shown.facts);
    const asked = questionsOf(areas).length;
    if (asked > 0) return <span className="warn">{asked === 1 ? '1 question' : `${asked} questions`}</span>;
    return <span>{areas.length === 0 ? 'done' : areas.length === 1 ? '1 area' : `${areas.length} areas`}</span>;
  },
};

const choose = (bench: Bench, areas: readonly AreaFact[], decision: 'open' | 'solid') =>
  bench.commit(
    'cutOut',
    { ...bench.values.cutOut, areas: chooseAreas(bench.values.cutOut.areas, areas, decision) },
    `${decision === 'open' ? 'Open' : 'Make solid'} ${areas.length === 1 ? 'an area' : `${areas.length} areas`}`,
  );

function pickGround(bench: Bench, { place, original, tools }: Press): void {
  const { cutOut } = bench.values;
  const hex = original && colourAt(original, place.x / tools.frame.width, place.y / tools.frame.height);
  if (!hex) return;
  bench.setTool(null);
  const ground = [...cutOut.ground.filter((h) => h !== hex), hex];
  bench.commit('cutOut', { ...cutOut, way: 'flat', ground, tolerance: null }, 'Pick the ground');
}

// A press on ground inside the mark turns that area from open to solid or back.
async function flipAt(bench: Bench, { place, tools }: Press): Promise<void> {
  const { shown } = tools;
  if (!bench.engine.fast || shown?.facts.way !== 'flat') return;
  const probe = await bench.engine.fast.ask({ type: 'probe', values: bench.values, x: place.x, y: place.y });
  if (!probe?.ground) return;
  const { areas, tolerance } = shown.facts;
  const seen = rgbFromHex(probe.original);
  const area = areaAt(areas, tools.toWorking(place), seen, rgbFromHex(probe.ground), tolerance);
  if (area) choose(bench, [area], area.decision === 'open' ? 'solid' : 'open');
}

function Panel({ bench }: BenchProps) {
  const { values, shown, tool } = bench;
  return (
    <CutOutPanel
      values={values.cutOut}
      facts={shown?.facts ?? null}
      isWhole={bench.shown?.reduction === 1}
      found={bench.mark.found}
      palette={bench.brand.palette}
      picture={bench.engine.original?.original ?? null}
      size={bench.mark}
      isPicking={tool === PICK}
      onPickGround={() => bench.setTool(tool === PICK ? null : PICK)}
      onChoose={(areas, decision) => choose(bench, areas, decision)}
      onAddColour={(hex) => void bench.sheet.addColour(bench.brand, hex)}
      onPreview={(v) => bench.preview('cutOut', v)}
      onCommit={(v, why) => bench.commit('cutOut', v, why)}
    />
  );
}

function Overlay({ bench, tools }: BenchProps & { tools: PictureTools }) {
  const { mode, wipeX, view } = tools;
  const areas = areasOf(tools.shown?.facts);
  const box = useRef<HTMLDivElement>(null);
  // Alt with the arrow down puts the focus on the next unsure area's chip; Enter flips it there.
  useHotkeys(
    'alt+down',
    () => {
      const focused =
        document.activeElement instanceof HTMLElement ? Number(document.activeElement.dataset.area) : Number.NaN;
      const next = nextUnsure(areas, Number.isNaN(focused) ? null : focused);
      if (!next) return;
      tools.reveal(tools.toFrame(next));
      const focus = () => box.current?.querySelector<HTMLElement>(`[data-area="${next.number}"]`)?.focus();
      requestAnimationFrame(() => requestAnimationFrame(focus));
    },
    { preventDefault: true },
    [areas, tools],
  );
  return (
    <div ref={box} className="overlay">
      {(mode === 'result' || mode === 'matte') && (
        <AreaChips
          areas={areas}
          view={view}
          toFrame={tools.toFrame}
          hiddenLeftOf={mode === 'result' ? wipeX : null}
          onChoose={(chosen, decision) => choose(bench, chosen, decision)}
        />
      )}
    </div>
  );
}
