import { useDrag } from '@use-gesture/react';
import { Segmented } from 'antd';
import { useCallback, useMemo, useRef, useState } from 'react';
import { Canvas } from '../../../components/Canvas';
import { usePhotos } from '../../../components/usePhoto';
import type { ProofGround } from '../../../data/proofGrounds';
import type { Before, Bench, PictureTools, TrailStage } from '../Bench';
import { HoverNumbers } from './HoverNumbers';
import { Magnifier } from './Magnifier';
import { TroubleMarks } from './TroubleMarks';
import { Wipe } from './Wipe';
import { type Place, frameMapping } from './frame';
import { type BenchView, paintBench } from './paintBench';
import { useMatte } from './useMatte';
import { usePeek } from './usePeek';
import { useViewport } from './useViewport';

interface Props {
  readonly bench: Bench;
  readonly stage: TrailStage;
  /** What lies under the result; null for the checker. */
  readonly ground: ProofGround | null;
}

const views = [
  { value: 'result', label: 'Result' },
  { value: 'original', label: 'Original' },
  { value: 'matte', label: 'Matte' },
  { value: 'faint', label: 'Faint', title: 'The matte with everything that is hardly there raised' },
  { value: 'trouble', label: 'Trouble' },
];
const matteOf: Partial<Record<BenchView, 'plain' | 'raised'>> = { matte: 'plain', faint: 'raised', trouble: 'plain' };
/** How close the bench comes when it goes to a place. */
const VISIT_ZOOM = 6;
const ZOOM_STEP = 1.5;
/** A press that moves less than this is a click. */
const CLICK_PX = 4;
/** Where the wipe stands at first, and where it makes way for something at the left; shares across. */
const FIRST_WIPE = 0.36;
const WIPE_ASIDE = 0.04;

/** The picture in the middle: pan, zoom to single pixels, wipe between original and result, five views. */
export function PictureView({ bench, stage, ground }: Props) {
  const { mark, engine, values, visit } = bench;
  const box = useRef<HTMLDivElement>(null);
  const [mode, setMode] = useState<BenchView>('result');
  const [wipe, setWipe] = useState(FIRST_WIPE);
  const [pointer, setPointer] = useState<Place | null>(null);
  const isResult = stage.showsResult ?? false;
  const isPeeking = usePeek();
  const active: BenchView = isResult && !isPeeking && (bench.tool === null || stage.keepsResult) ? mode : 'original';
  const frame = beforeOf(stage, bench, false);
  const port = useViewport(box, frame.width, frame.height);
  // Close up, the full-size result; from afar the reduced one holds all that the screen can show.
  const isClose = port.view.scale > 1 / (mark.width / mark.reducedWidth);
  const shown = (isClose ? engine.full : null) ?? engine.quick;
  const original = beforeOf(stage, bench, isClose).bitmap;
  const matte = useMatte(engine, values, stage.id, (isResult && matteOf[active]) || null);
  const photos = usePhotos(ground?.url ? [ground.url] : []);
  const photo = ground?.url ? (photos.get(ground.url) ?? null) : null;
  const wipeX = isResult ? wipe * port.size.w : null;
  const { toFrame, toWorking } = useMemo(() => frameMapping(shown), [shown]);
  const findings = (isResult && shown?.findings) || [];

  const tools: PictureTools = {
    view: port.view,
    frame,
    mode: active,
    shown,
    wipeX,
    toFrame,
    toWorking,
    reveal: (place) => {
      if (mode === 'original') setMode('result');
      setWipe(Math.min(wipe, WIPE_ASIDE));
      port.bringIntoView(place);
    },
  };
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      if (!original) return;
      paintBench(context, w, h, {
        view: port.view,
        mode: active,
        width: frame.width,
        height: frame.height,
        original,
        result: shown?.shown.bitmap ?? null,
        extents: shown?.shown.extents ?? null,
        hasResult: isResult && shown !== null,
        matte,
        ground,
        photo,
        wipeX,
      });
    },
    [port.view, active, frame.width, frame.height, original, shown, isResult, matte, ground, photo, wipeX],
  );
  const toPicture = (x: number, y: number): Place => {
    const bounds = (box.current as HTMLElement).getBoundingClientRect();
    return {
      x: (x - bounds.left - port.view.x) / port.view.scale,
      y: (y - bounds.top - port.view.y) / port.view.scale,
    };
  };
  const bindDrag = useDrag(
    ({ tap, last, xy: [x, y], delta: [dx, dy], movement: [mx, my], memo: isPanning = false }) => {
      if (last && tap) stage.onPress?.(bench, { place: toPicture(x, y), original, tools });
      if (!isPanning && Math.hypot(mx, my) <= CLICK_PX) return false;
      port.panBy(dx, dy);
      return true;
    },
    // Not by the library's own filter of taps, which would keep clicks from the buttons that lie on the picture.
    { tapsThreshold: CLICK_PX, pointer: { keys: false, buttons: [1, 4] } },
  );
  const onKeyDown = (event: React.KeyboardEvent) => {
    const step = event.shiftKey ? 160 : 40;
    const keys: Record<string, () => void> = {
      ArrowLeft: () => port.panBy(step, 0),
      ArrowRight: () => port.panBy(-step, 0),
      ArrowUp: () => port.panBy(0, step),
      ArrowDown: () => port.panBy(0, -step),
      '+': () => port.zoomAt(ZOOM_STEP),
      '=': () => port.zoomAt(ZOOM_STEP),
      '-': () => port.zoomAt(1 / ZOOM_STEP),
      '0': port.showAll,
    };
    if (!keys[event.key] || event.target !== event.currentTarget || event.altKey) return;
    event.preventDefault();
    keys[event.key]();
  };
  const { Overlay } = stage;
  const hint = stage.hint?.(bench);
  return (
    <div
      {...bindDrag()}
      className={`picture${bench.tool ? ' is-picking' : ''}`}
      ref={box}
      tabIndex={0}
      aria-label="Picture. Arrow keys move it, plus and minus zoom, 0 shows all."
      role="group"
      onKeyDown={onKeyDown}
      onMouseMove={(e) => isResult && setPointer(toPicture(e.clientX, e.clientY))}
      onMouseLeave={() => setPointer(null)}
    >
      <Canvas draw={draw} className="picture-canvas" label={`${mark.name}, ${active}`} />
      {!original && (
        <span className="picture-wait soft" role="status">
          Loading the picture…
        </span>
      )}
      {isResult && active === 'result' && <Wipe at={wipe} onMove={setWipe} />}
      {/* What lies on the picture has gestures of its own. */}
      <div className="overlay" onPointerDown={(e) => e.stopPropagation()}>
        {Overlay && <Overlay bench={bench} tools={tools} />}
        {isResult && active === 'trouble' && (
          <TroubleMarks findings={findings} view={port.view} toFrame={toFrame} visit={visit} onVisit={bench.setVisit} />
        )}
        {isResult && visit && shown && original && (
          <Magnifier
            findings={findings}
            visit={visit}
            shown={shown.shown}
            original={original}
            toFrame={toFrame}
            onVisit={bench.setVisit}
            onGo={(p) => port.centreOn(p, VISIT_ZOOM)}
          />
        )}
      </div>
      {hint && <span className="picture-hint">{hint}</span>}
      <div className="picture-foot" onPointerDown={(e) => e.stopPropagation()}>
        {isResult ? (
          <Segmented aria-label="View" options={views} value={mode} onChange={(v) => setMode(v as BenchView)} />
        ) : (
          <span />
        )}
        {isResult && <HoverNumbers engine={engine} values={values} at={pointer} />}
        <ZoomButtons port={port} isSettling={engine.isSettling} share={engine.step?.share ?? null} />
      </div>
    </div>
  );
}

function beforeOf(stage: TrailStage, bench: Bench, isClose: boolean): Before {
  if (stage.before) return stage.before(bench, isClose);
  const { engine, mark } = bench;
  const whole = (isClose ? engine.originalFull : null) ?? engine.original;
  const shown = (isClose ? engine.full : null) ?? engine.quick;
  const size = stage.showsResult && bench.shown ? frameOf(bench) : { width: mark.width, height: mark.height };
  return { bitmap: (stage.showsResult && shown?.cropped) || (whole?.original ?? null), ...size };
}

// The whole picture as the mark has it: a reduced one is off by a rounding.
const frameOf = ({ shown, mark }: Bench) =>
  shown?.cropped ? shown.shown.frame : { width: mark.width, height: mark.height };

interface ZoomProps {
  readonly port: ReturnType<typeof useViewport>;
  readonly isSettling: boolean;
  /** How much of long work is done, 0..1; null where nothing is known. */
  readonly share: number | null;
}

function ZoomButtons({ port, isSettling, share }: ZoomProps) {
  return (
    <span className="picture-zoom">
      {isSettling && (
        <span className="soft small" role="status">
          rendering at full size{share !== null && `, ${Math.round(share * 100)} %`}
        </span>
      )}
      <button type="button" onClick={() => port.zoomAt(1 / ZOOM_STEP)} aria-label="Zoom out">
        −
      </button>
      <button type="button" onClick={port.showAll} aria-pressed={port.isFit}>
        Fit
      </button>
      <button type="button" onClick={() => port.zoomTo(1)}>
        {formatZoom(port.view.scale)}
      </button>
      <button type="button" onClick={() => port.zoomAt(ZOOM_STEP)} aria-label="Zoom in">
        +
      </button>
    </span>
  );
}

const formatZoom = (scale: number) => `${scale >= 0.1 ? Math.round(scale * 100) : (scale * 100).toFixed(1)} %`;
