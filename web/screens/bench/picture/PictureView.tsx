import { Segmented } from 'antd';
import { type PointerEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { MarkView } from '../../../../contract/views';
import type { RectPx } from '../../../../core/params';
import type { StageValues } from '../../../../core/stages';
import { Canvas } from '../../../components/Canvas';
import { usePhotos } from '../../../components/usePhoto';
import type { TrailStage } from '../Trail';
import type { Engine, ProofGround } from '../useEngine';
import { AreaChips } from './AreaChips';
import { CropFrame } from './CropFrame';
import { type BenchView, paintBench } from './paintBench';
import { useMatte } from './useMatte';
import { useViewport } from './useViewport';

interface Props {
  readonly stage: TrailStage;
  readonly mark: MarkView;
  readonly engine: Engine;
  readonly ground: ProofGround | null;
  readonly crop: RectPx | null;
  readonly values: StageValues;
  readonly isPicking: boolean;
  readonly onPick: (hex: string) => void;
  readonly onToggleArea: (x: number, y: number, decision: 'open' | 'solid') => void;
  readonly onCrop: (rect: RectPx | null, isFinal: boolean) => void;
}

const views = [{ value: 'result', label: 'Result' }, { value: 'original', label: 'Original' }, { value: 'matte', label: 'Matte' }];

/** The picture in the middle: pan, zoom to single pixels, wipe between original and result, three views. */
export function PictureView({ stage, mark, engine, ground, crop, values, isPicking, onPick, onToggleArea, onCrop }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const port = useViewport(box, mark.width, mark.height);
  const [mode, setMode] = useState<BenchView>('result');
  const [wipe, setWipe] = useState(0.36);
  const photos = usePhotos(ground?.url ? [ground.url] : []);
  const isCutOut = stage === 'cutOut';
  const active: BenchView = isCutOut && !isPicking ? mode : 'original';
  // Close up, the full-size result; from afar the reduced one holds all that the screen can show.
  const isClose = port.view.scale > 1 / (mark.width / mark.reducedWidth);
  const shown = (isClose ? engine.full : null) ?? engine.quick;
  const original = (isClose ? engine.originalFull : null) ?? engine.original;
  const matte = useMatte(engine, values, active === 'matte');
  const photo = ground?.url ? photos.get(ground.url) ?? null : null;
  const wipeX = isCutOut ? wipe * port.size.w : null;

  const draw = useCallback((context: CanvasRenderingContext2D, w: number, h: number) => {
    if (!original) return;
    paintBench(context, w, h, { view: port.view, mode: active, width: mark.width, height: mark.height, original: original.original, shown, matte, ground, photo, wipeX, crop });
  }, [port.view, active, mark.width, mark.height, original, shown, matte, ground, photo, wipeX, crop]);

  const toWorking = (event: { clientX: number; clientY: number }) => {
    const bounds = (box.current as HTMLElement).getBoundingClientRect();
    return { x: (event.clientX - bounds.left - port.view.x) / port.view.scale, y: (event.clientY - bounds.top - port.view.y) / port.view.scale };
  };
  const drag = useDrag(port.panBy, (event) => {
    if (isPicking && original) {
      const at = toWorking(event);
      const hex = colourAt(original.original, at.x / mark.width, at.y / mark.height);
      if (hex) onPick(hex);
    }
  });
  const onKeyDown = (event: React.KeyboardEvent) => {
    const step = event.shiftKey ? 160 : 40;
    const keys: Record<string, () => void> = {
      ArrowLeft: () => port.panBy(step, 0), ArrowRight: () => port.panBy(-step, 0), ArrowUp: () => port.panBy(0, step), ArrowDown: () => port.panBy(0, -step),
      '+': () => port.zoomAt(1.5), '=': () => port.zoomAt(1.5), '-': () => port.zoomAt(1 / 1.5), '0': port.showAll,
    };
    if (!keys[event.key] || event.target !== event.currentTarget) return;
    event.preventDefault();
    keys[event.key]();
  };
  const areas = useMemo(() => shown?.facts.areas ?? [], [shown]);

  return (
    <div className={`picture${isPicking ? ' is-picking' : ''}`} ref={box} tabIndex={0} aria-label="Picture. Arrow keys move it, plus and minus zoom, 0 shows all." role="group" onKeyDown={onKeyDown} {...drag}>
      <Canvas draw={draw} className="picture-canvas" label={`${mark.name}, ${active}`} />
      {!original && <span className="picture-wait soft" role="status">Loading the picture…</span>}
      {isCutOut && active === 'result' && <Wipe at={wipe} onMove={setWipe} />}
      {isCutOut && active !== 'original' && <AreaChips areas={areas} view={port.view} hiddenLeftOf={active === 'result' ? wipeX : null} onToggle={onToggleArea} />}
      {stage === 'crop' && <CropFrame rect={crop} width={mark.width} height={mark.height} view={port.view} onChange={onCrop} />}
      {isPicking && <span className="picture-hint">Click the ground’s colour in the picture. Esc leaves it as it is.</span>}
      <div className="picture-foot" onPointerDown={(e) => e.stopPropagation()}>
        {isCutOut ? <Segmented aria-label="View" options={views} value={mode} onChange={(v) => setMode(v as BenchView)} /> : <span />}
        <span className="picture-zoom">
          {engine.isSettling && <span className="soft small" role="status">settling to full size</span>}
          <button type="button" onClick={() => port.zoomAt(1 / 1.5)} aria-label="Zoom out">−</button>
          <button type="button" onClick={port.showAll} aria-pressed={port.isFit}>Fit</button>
          <button type="button" onClick={() => port.zoomTo(1)}>{formatZoom(port.view.scale)}</button>
          <button type="button" onClick={() => port.zoomAt(1.5)} aria-label="Zoom in">+</button>
        </span>
      </div>
    </div>
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
    onPointerCancel: () => { last.current = null; },
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
    const end = () => { isHeld.current = false; };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', end);
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', end);
    };
  }, [onMove]);
  return (
    <div
      className="wipe" ref={bar} style={{ left: `${at * 100}%` }} role="slider" tabIndex={0} aria-label="Wipe between original and result" aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round(at * 100)}
      onPointerDown={(event) => { event.stopPropagation(); isHeld.current = true; }}
      onKeyDown={(event) => {
        const step = event.key === 'ArrowLeft' ? -0.02 : event.key === 'ArrowRight' ? 0.02 : 0;
        if (step) { event.preventDefault(); event.stopPropagation(); onMove(Math.min(1, Math.max(0, at + step))); }
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
  for (let i = 0; i < data.length; i += 4) if (data[i + 3] === 255) for (let c = 0; c < 4; c++) sum[c] += c < 3 ? data[i + c] : 1;
  return sum[3] === 0 ? null : `#${sum.slice(0, 3).map((s) => Math.round(s / sum[3]).toString(16).padStart(2, '0')).join('')}`;
}
