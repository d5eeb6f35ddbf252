import { Segmented } from 'antd';
import { type PointerEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { MarkView } from '../../../../contract/views';
import type { Corners } from '../../../../core/geometry/projective';
import { rgbFromHex } from '../../../../core/colour/hex';
import type { StageValues } from '../../../../core/stages';
import { areaAt, nextUnsure } from '../../../../core/stages/areaChoices';
import { type AreaFact, type MarkFact, areasOf } from '../../../../core/stages/cutOutFacts';
import type { Candidates } from '../../../../worker/protocol';
import { Canvas } from '../../../components/Canvas';
import { usePhotos } from '../../../components/usePhoto';
import type { TrailStage } from '../Trail';
import type { Engine, ProofGround } from '../useEngine';
import { AreaChips } from './AreaChips';
import { CropFrame } from './CropFrame';
import { HoverNumbers } from './HoverNumbers';
import { Magnifier, type Visit } from './Magnifier';
import { CandidateBoxes, CornerHandles, LevelLine } from './SheetOverlays';
import { TroubleMarks } from './TroubleMarks';
import { type Place, frameMapping } from './frame';
import { type BenchView, paintBench } from './paintBench';
import { useMatte } from './useMatte';
import { useViewport } from './useViewport';

/** What the pointer does on the crop stage. */
export type CropMode = 'region' | 'line' | 'corners';

interface Props {
  readonly stage: TrailStage;
  readonly mark: MarkView;
  readonly engine: Engine;
  readonly ground: ProofGround | null;
  readonly crop: StageValues['crop'];
  readonly values: StageValues;
  readonly isPicking: boolean;
  readonly candidates: Candidates | null;
  readonly cropMode: CropMode;
  readonly visit: Visit | null;
  readonly onVisit: (visit: Visit | null) => void;
  readonly onPick: (hex: string) => void;
  readonly onChoose: (areas: readonly AreaFact[], decision: 'open' | 'solid') => void;
  readonly onCrop: (values: StageValues['crop'], isFinal: boolean, why?: string) => void;
  readonly onTake: (mark: MarkFact) => void;
  readonly onCropMode: (mode: CropMode) => void;
}

const views = [
  { value: 'result', label: 'Result' },
  { value: 'original', label: 'Original' },
  { value: 'matte', label: 'Matte' },
  { value: 'trouble', label: 'Trouble' },
];
/** How close the bench comes when it goes to a place. */
const VISIT_ZOOM = 6;

/** The picture in the middle: pan, zoom to single pixels, wipe between original and result, four views. */
export function PictureView({
  stage,
  mark,
  engine,
  ground,
  crop,
  values,
  isPicking,
  candidates,
  cropMode,
  visit,
  onVisit,
  onPick,
  onChoose,
  onCrop,
  onTake,
  onCropMode,
}: Props) {
  const box = useRef<HTMLDivElement>(null);
  const isCutOut = stage === 'cutOut';
  const frame = useFrameSize({ stage, mark, engine, candidates, cropMode });
  const port = useViewport(box, frame.width, frame.height);
  const [mode, setMode] = useState<BenchView>('result');
  const [wipe, setWipe] = useState(0.36);
  const [pointer, setPointer] = useState<Place | null>(null);
  const photos = usePhotos(ground?.url ? [ground.url] : []);
  const active: BenchView = isCutOut && !isPicking ? mode : 'original';
  // Close up, the full-size result; from afar the reduced one holds all that the screen can show.
  const isClose = port.view.scale > 1 / (mark.width / mark.reducedWidth);
  const shown = (isClose ? engine.full : null) ?? engine.quick;
  const whole = (isClose ? engine.originalFull : null) ?? engine.original;
  const original = isCutOut
    ? (shown?.cropped ?? whole?.original)
    : ((stage === 'crop' && cropMode !== 'corners' ? candidates?.sheet : null) ?? whole?.original);
  const matte = useMatte(engine, values, active === 'matte' || active === 'trouble');
  const photo = ground?.url ? (photos.get(ground.url) ?? null) : null;
  const wipeX = isCutOut ? wipe * port.size.w : null;
  const { toFrame, toWorking } = useMemo(() => frameMapping(shown), [shown]);
  const findings = shown?.findings ?? [];

  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      if (!original) return;
      paintBench(context, w, h, {
        view: port.view,
        mode: active,
        width: frame.width,
        height: frame.height,
        original,
        result: shown?.result ?? null,
        extents: shown?.extents ?? null,
        hasResult: isCutOut && shown !== null,
        matte,
        ground,
        photo,
        wipeX,
      });
    },
    [port.view, active, frame.width, frame.height, original, shown, isCutOut, matte, ground, photo, wipeX],
  );

  const toPicture = (event: { clientX: number; clientY: number }): Place => {
    const bounds = (box.current as HTMLElement).getBoundingClientRect();
    return {
      x: (event.clientX - bounds.left - port.view.x) / port.view.scale,
      y: (event.clientY - bounds.top - port.view.y) / port.view.scale,
    };
  };
  // A press on ground inside the mark turns that area from open to solid or back.
  const flipAt = async (place: Place) => {
    if (!engine.fast || shown?.facts.way !== 'flat') return;
    const probe = await engine.fast.ask({ type: 'probe', values, x: place.x, y: place.y });
    if (!probe?.ground) return;
    const area = areaAt(
      shown.facts.areas,
      toWorking(place),
      rgbFromHex(probe.original),
      rgbFromHex(probe.ground),
      shown.facts.tolerance,
    );
    if (area) onChoose([area], area.decision === 'open' ? 'solid' : 'open');
  };
  const drag = useDrag(port.panBy, (event) => {
    if (isPicking && original) {
      const at = toPicture(event);
      const hex = colourAt(original, at.x / frame.width, at.y / frame.height);
      if (hex) onPick(hex);
    } else if (isCutOut && (active === 'result' || active === 'matte')) void flipAt(toPicture(event));
  });
  const onKeyDown = (event: React.KeyboardEvent) => {
    const step = event.shiftKey ? 160 : 40;
    const keys: Record<string, () => void> = {
      ArrowLeft: () => port.panBy(step, 0),
      ArrowRight: () => port.panBy(-step, 0),
      ArrowUp: () => port.panBy(0, step),
      ArrowDown: () => port.panBy(0, -step),
      '+': () => port.zoomAt(1.5),
      '=': () => port.zoomAt(1.5),
      '-': () => port.zoomAt(1 / 1.5),
      '0': port.showAll,
    };
    if (!keys[event.key] || event.target !== event.currentTarget || event.altKey) return;
    event.preventDefault();
    keys[event.key]();
  };
  const areas = areasOf(shown?.facts);
  useNextUnsure(box, areas, isCutOut, (area) => {
    if (mode === 'original') setMode('result');
    setWipe(Math.min(wipe, 0.04));
    port.bringIntoView(toFrame(area));
  });

  return (
    <div
      className={`picture${isPicking ? ' is-picking' : ''}`}
      ref={box}
      tabIndex={0}
      aria-label="Picture. Arrow keys move it, plus and minus zoom, 0 shows all."
      role="group"
      onKeyDown={onKeyDown}
      {...drag}
      onPointerMove={(e) => {
        drag.onPointerMove(e);
        if (isCutOut) setPointer(toPicture(e));
      }}
      onPointerLeave={() => setPointer(null)}
    >
      <Canvas draw={draw} className="picture-canvas" label={`${mark.name}, ${active}`} />
      {!original && (
        <span className="picture-wait soft" role="status">
          Loading the picture…
        </span>
      )}
      {isCutOut && active === 'result' && <Wipe at={wipe} onMove={setWipe} />}
      {isCutOut && (active === 'result' || active === 'matte') && (
        <AreaChips
          areas={areas}
          view={port.view}
          toFrame={toFrame}
          hiddenLeftOf={active === 'result' ? wipeX : null}
          onChoose={onChoose}
        />
      )}
      {isCutOut && active === 'trouble' && (
        <TroubleMarks findings={findings} view={port.view} toFrame={toFrame} visit={visit} onVisit={onVisit} />
      )}
      {isCutOut && visit && shown && original && (
        <Magnifier
          findings={findings}
          visit={visit}
          shown={shown}
          original={original}
          toFrame={toFrame}
          onVisit={onVisit}
          onGo={(p) => port.centreOn(p, VISIT_ZOOM)}
        />
      )}
      {stage === 'crop' && cropMode !== 'corners' && (
        <>
          {candidates && candidates.marks.length > 1 && (
            <CandidateBoxes
              noun={values.cutOut.way === 'paper' ? 'Signature' : 'Mark'}
              marks={candidates.marks}
              taken={values.cutOut.mark}
              view={port.view}
              onTake={onTake}
            />
          )}
          {(crop.rect !== null || (candidates?.marks.length ?? 0) < 2) && (
            <CropFrame
              rect={crop.rect ?? { x: 0, y: 0, width: frame.width, height: frame.height }}
              turnDeg={crop.rect ? crop.turn : 0}
              width={frame.width}
              height={frame.height}
              view={port.view}
              onChange={(rect, isFinal) => onCrop({ ...crop, rect }, isFinal)}
            />
          )}
        </>
      )}
      {stage === 'crop' && cropMode === 'line' && (
        <LevelLine
          onDrawn={(angle) => {
            onCrop({ ...crop, turn: angle }, true, 'Level along a line');
            onCropMode('region');
          }}
        />
      )}
      {stage === 'crop' && cropMode === 'corners' && (
        <CornerHandles
          corners={crop.corners ?? candidates?.corners ?? startCorners(mark)}
          view={port.view}
          onChange={(corners, isFinal) => onCrop({ rect: null, turn: 0, corners }, isFinal, 'Set the sheet’s corners')}
        />
      )}
      {isPicking && (
        <span className="picture-hint">Click the ground’s colour in the picture. Esc leaves it as it is.</span>
      )}
      {stage === 'crop' && cropMode === 'line' && (
        <span className="picture-hint">Draw a line along the writing. Esc leaves it.</span>
      )}
      {stage === 'crop' && cropMode === 'corners' && (
        <span className="picture-hint">Drag the four corners of the sheet.</span>
      )}
      <div className="picture-foot" onPointerDown={(e) => e.stopPropagation()}>
        {isCutOut ? (
          <Segmented aria-label="View" options={views} value={mode} onChange={(v) => setMode(v as BenchView)} />
        ) : (
          <span />
        )}
        {isCutOut && <HoverNumbers engine={engine} values={values} at={pointer} />}
        <span className="picture-zoom">
          {engine.isSettling && (
            <span className="soft small" role="status">
              settling to full size
            </span>
          )}
          <button type="button" onClick={() => port.zoomAt(1 / 1.5)} aria-label="Zoom out">
            −
          </button>
          <button type="button" onClick={port.showAll} aria-pressed={port.isFit}>
            Fit
          </button>
          <button type="button" onClick={() => port.zoomTo(1)}>
            {formatZoom(port.view.scale)}
          </button>
          <button type="button" onClick={() => port.zoomAt(1.5)} aria-label="Zoom in">
            +
          </button>
        </span>
      </div>
    </div>
  );
}

/** The size of what is looked at: the original, the sheet put flat, or what the crop lets through. */
function useFrameSize({
  stage,
  mark,
  engine,
  candidates,
  cropMode,
}: Pick<Props, 'stage' | 'mark' | 'engine' | 'candidates' | 'cropMode'>): { width: number; height: number } {
  const shown = engine.full ?? engine.quick;
  if (stage === 'cutOut' && shown) return shown.cropped ? shown.frame : { width: mark.width, height: mark.height };
  if (stage === 'crop' && cropMode !== 'corners' && candidates?.sheet)
    return { width: candidates.width, height: candidates.height };
  return { width: mark.width, height: mark.height };
}

// Where nothing is known of the sheet, its corners start a little inside the picture.
const startCorners = ({ width: w, height: h }: MarkView): Corners => {
  const [x, y] = [Math.round(w * 0.08), Math.round(h * 0.08)];
  return [
    { x, y },
    { x: w - x, y },
    { x: w - x, y: h - y },
    { x, y: h - y },
  ];
};

/** Alt with the arrow down puts the focus on the next unsure area's chip; Enter flips it there. */
function useNextUnsure(
  box: React.RefObject<HTMLElement | null>,
  areas: readonly AreaFact[],
  isOn: boolean,
  onGo: (area: AreaFact) => void,
): void {
  useHotkeys(
    'alt+down',
    () => {
      const focused =
        document.activeElement instanceof HTMLElement ? Number(document.activeElement.dataset.area) : Number.NaN;
      const next = nextUnsure(areas, Number.isNaN(focused) ? null : focused);
      if (!next) return;
      onGo(next);
      requestAnimationFrame(() =>
        requestAnimationFrame(() => box.current?.querySelector<HTMLElement>(`[data-area="${next.number}"]`)?.focus()),
      );
    },
    { preventDefault: true, enabled: isOn },
    [areas, onGo],
  );
}

const formatZoom = (scale: number) => `${scale >= 0.1 ? Math.round(scale * 100) : (scale * 100).toFixed(1)} %`;

/** Press and move pans; a press that hardly moves is a click. */
function useDrag(panBy: (dx: number, dy: number) => void, onClick: (event: PointerEvent) => void) {
  const last = useRef<{ x: number; y: number; moved: number } | null>(null);
  return {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      if (event.button > 1) return;
      last.current = { x: event.clientX, y: event.clientY, moved: 0 };
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      const from = last.current;
      if (!from) return;
      const [dx, dy] = [event.clientX - from.x, event.clientY - from.y];
      const moved = from.moved + Math.abs(dx) + Math.abs(dy);
      last.current = { x: event.clientX, y: event.clientY, moved };
      if (moved > 4) panBy(dx, dy);
    },
    onPointerUp: (event: PointerEvent<HTMLElement>) => {
      if (last.current && last.current.moved <= 4) onClick(event);
      last.current = null;
    },
    onPointerCancel: () => {
      last.current = null;
    },
  };
}

function Wipe({ at, onMove }: { at: number; onMove: (at: number) => void }) {
  const bar = useRef<HTMLDivElement>(null);
  const isHeld = useRef(false);
  useEffect(() => {
    const move = (event: globalThis.PointerEvent) => {
      const bounds = bar.current?.parentElement?.getBoundingClientRect();
      if (isHeld.current && bounds) onMove(Math.min(1, Math.max(0, (event.clientX - bounds.left) / bounds.width)));
    };
    const end = () => {
      isHeld.current = false;
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', end);
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', end);
    };
  }, [onMove]);
  return (
    <div
      className="wipe"
      ref={bar}
      style={{ left: `${at * 100}%` }}
      role="slider"
      tabIndex={0}
      aria-label="Wipe between original and result"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(at * 100)}
      onPointerDown={(event) => {
        event.stopPropagation();
        isHeld.current = true;
      }}
      onKeyDown={(event) => {
        const step = event.key === 'ArrowLeft' ? -0.02 : event.key === 'ArrowRight' ? 0.02 : 0;
        if (step) {
          event.preventDefault();
          event.stopPropagation();
          onMove(Math.min(1, Math.max(0, at + step)));
        }
      }}
    >
      <span aria-hidden="true">⇆</span>
    </div>
  );
}

/** The colour under a point of a picture, averaged over 3 × 3 so that one noisy pixel does not decide. */
function colourAt(bitmap: ImageBitmap, u: number, v: number): string | null {
  if (u < 0 || v < 0 || u >= 1 || v >= 1) return null;
  const canvas = new OffscreenCanvas(3, 3);
  const context = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
  context.drawImage(bitmap, Math.floor(u * bitmap.width) - 1, Math.floor(v * bitmap.height) - 1, 3, 3, 0, 0, 3, 3);
  const { data } = context.getImageData(0, 0, 3, 3);
  const sum = [0, 0, 0, 0];
  for (let i = 0; i < data.length; i += 4)
    if (data[i + 3] === 255) for (let c = 0; c < 4; c++) sum[c] += c < 3 ? data[i + c] : 1;
  return sum[3] === 0
    ? null
    : `#${sum
        .slice(0, 3)
        .map((s) =>
          Math.round(s / sum[3])
            .toString(16)
            .padStart(2, '0'),
        )
        .join('')}`;
}
