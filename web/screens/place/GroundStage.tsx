import type Konva from 'konva';
import { useEffect, useRef, useState } from 'react';
import { Group, Image as Picture, Layer, Line, Rect, Stage, Text, Transformer } from 'react-konva';
import { paths } from '../../../contract/paths';
import type { LookView, MarkCard, RunGroundView } from '../../../contract/views';
import type { RectPx } from '../../../core/params';
import { distancePx } from '../../../core/placements/lengths';
import { type Item, type MarkItem, isStrip } from '../../../core/placements/readPlacement';
import { ClipPlayer } from './ClipPlayer';
import { Loupe } from './Loupe';
import { usePicture } from './usePicture';
import { useSize } from './useSize';
import { type Guide, SAFE, distancesOf, snapBox } from './snapping';

interface Props {
  readonly ground: RunGroundView;
  readonly look: LookView | undefined;
  readonly items: readonly Item[];
  readonly marks: readonly MarkCard[];
  readonly chosen: number;
  readonly zoom: 'fit' | 'actual';
  readonly showsSafe: boolean;
  /** Where the outline stands out least is shown large. */
  readonly showsWorst: boolean;
  readonly onChoose: (item: number) => void;
  /** The mark was moved, turned, or made so many times as large by hand. */
  readonly onMove: (item: number, moved: Moved) => void;
}

export interface Moved {
  readonly box: RectPx;
  readonly turnDeg: number;
  readonly grown: number;
}

const SNAP_PX = 7;
const PLUM = '#8d3c7a';

/** A ground large, with its marks on it, moved, sized and turned by hand. */
export function GroundStage(props: Props) {
  const { ground, items, marks, chosen, zoom, showsSafe, showsWorst, onChoose, onMove } = props;
  const [under, setUnder] = useState<RectPx | null>(null);
  // What comes to be known while a mark is under the hand waits until it is let go.
  const held = useRef(props.look);
  if (!under) held.current = props.look;
  const look = held.current;
  const [room, size] = useSize<HTMLDivElement>();
  const page = { width: look?.width ?? ground.width, height: look?.height ?? ground.height };
  const fit = Math.min((size.width - 48) / page.width, (size.height - 48) / page.height);
  const scale = Math.max(0.01, zoom === 'fit' ? Math.min(fit, 4) : 1 / (window.devicePixelRatio || 1));
  const photo = usePicture(paths.runGroundPreview(ground.id));
  const [guides, setGuides] = useState<readonly Guide[]>([]);
  const [stage, setStage] = useState({ x: 0, y: 0 });
  const [width, height] = [page.width * scale, page.height * scale];
  useEffect(() => setStage({ x: 0, y: 0 }), [ground.id, zoom]);
  const boxes = look?.items.map((i) => i.box) ?? [];
  const active = items[chosen];
  const box = under ?? boxes[chosen] ?? null;
  const at = look?.photo ?? { x: 0, y: 0, ...page };
  const worst = look?.items[chosen]?.seen?.worst ?? null;
  const isClip = ground.kind === 'clip';
  const variant = look?.items[chosen]?.variant;
  const revision = marks.find((m) => active && !isStrip(active) && m.id === active.mark)?.revision ?? 0;
  const chosenMark =
    active && !isStrip(active) && variant
      ? {
          url: `${paths.markVariant(active.mark, variant)}?width=800&turn=${active.turnDeg}&revision=${revision}`,
          opacity: active.opacity,
        }
      : null;
  return (
    <div className="place-room" ref={room} data-scale={scale.toFixed(4)}>
      {isClip && <ClipPlayer ground={ground} width={width} height={height} />}
      <div
        className={`place-page${isClip ? ' is-over' : ''}`}
        style={zoom === 'actual' ? { margin: 'auto' } : undefined}
      >
        <Stage
          width={zoom === 'fit' ? width : Math.min(width, size.width - 8)}
          height={zoom === 'fit' ? height : Math.min(height, size.height - 8)}
          draggable={zoom === 'actual'}
          x={stage.x}
          y={stage.y}
          onDragEnd={(e) => e.target === e.target.getStage() && setStage({ x: e.target.x(), y: e.target.y() })}
        >
          <Layer listening={false}>
            {!isClip && <Rect width={width} height={height} fill="#ffffff" />}
            {photo && !isClip && (
              <Picture
                image={photo.image}
                x={at.x * scale}
                y={at.y * scale}
                width={at.width * scale}
                height={at.height * scale}
              />
            )}
            {look?.gaps && (
              <Rect
                x={look.gaps.box.x * scale}
                y={look.gaps.box.y * scale}
                width={Math.max(2, look.gaps.box.width * scale)}
                height={Math.max(2, look.gaps.box.height * scale)}
                fill="#b86e00"
              />
            )}
          </Layer>
          <Layer>
            {items.map((item, k) =>
              // What was just added has no place before it is checked.
              !boxes[k] ? null : isStrip(item) ? (
                <Rect
                  key={k}
                  {...scaledBox(boxes[k], scale)}
                  fill={item.strip.colour}
                  opacity={item.opacity}
                  onMouseDown={() => onChoose(k)}
                />
              ) : (
                <LaidMark
                  key={`${k}-${item.mark}`}
                  item={item}
                  mark={marks.find((m) => m.id === item.mark)}
                  variant={look?.items[k]?.variant ?? null}
                  box={boxes[k]}
                  scale={scale}
                  isChosen={k === chosen}
                  onChoose={() => onChoose(k)}
                  snap={(own) =>
                    snapBox(own, page, {
                      insetPx: distancePx(item.inset, page),
                      others: boxes.filter((_, n) => n !== k),
                      reach: SNAP_PX / scale,
                    })
                  }
                  onMoving={(own, lines) => {
                    setUnder(own);
                    setGuides(lines);
                  }}
                  onMoved={(moved) => {
                    setUnder(null);
                    setGuides([]);
                    onMove(k, moved);
                  }}
                />
              ),
            )}
          </Layer>
          <Layer listening={false}>
            {showsSafe &&
              Object.values(SAFE).map((share) => (
                <Rect
                  key={share}
                  x={width * share}
                  y={height * share}
                  width={width * (1 - 2 * share)}
                  height={height * (1 - 2 * share)}
                  stroke="#ffffff"
                  dash={[6, 4]}
                  strokeWidth={1}
                  shadowColor="#000"
                  shadowBlur={2}
                />
              ))}
            {guides.map((g) => (
              <Line
                key={`${g.way}${g.at}`}
                points={
                  g.way === 'down' ? [g.at * scale, 0, g.at * scale, height] : [0, g.at * scale, width, g.at * scale]
                }
                stroke={PLUM}
                strokeWidth={1}
              />
            ))}
            {box && active && !isStrip(active) && <Distances box={box} page={page} scale={scale} />}
            {worst && showsWorst && (
              <Rect
                x={worst.x * scale - 14}
                y={worst.y * scale - 14}
                width={28}
                height={28}
                stroke="#e9a13a"
                strokeWidth={2}
                cornerRadius={14}
              />
            )}
          </Layer>
        </Stage>
      </div>
      {worst && showsWorst && chosenMark && (
        <Loupe
          photo={paths.runGroundPreview(ground.id)}
          photoBox={at}
          mark={chosenMark.url}
          opacity={chosenMark.opacity}
          box={boxes[chosen]}
          worst={worst}
        />
      )}
    </div>
  );
}

const scaledBox = (b: RectPx, s: number) => ({ x: b.x * s, y: b.y * s, width: b.width * s, height: b.height * s });

interface LaidProps {
  readonly item: MarkItem;
  readonly mark: MarkCard | undefined;
  readonly variant: string | null;
  readonly box: RectPx;
  readonly scale: number;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
  readonly snap: (box: RectPx) => { x: number; y: number; guides: readonly Guide[] };
  readonly onMoving: (box: RectPx, guides: readonly Guide[]) => void;
  readonly onMoved: (moved: Moved) => void;
}

/** Pictures of marks are asked for in steps of width, so that a size under the hand asks for few. */
const WIDTH_STEP = 200;
const MOST_WIDTH = 2000;

function LaidMark(props: LaidProps) {
  const { item, mark, variant, box, scale, isChosen, onChoose, snap, onMoving, onMoved } = props;
  const node = useRef<Konva.Group>(null);
  const handles = useRef<Konva.Transformer>(null);
  const wanted = box.width * scale * (window.devicePixelRatio || 1);
  const width = Math.min(MOST_WIDTH, Math.max(WIDTH_STEP, Math.ceil(wanted / WIDTH_STEP) * WIDTH_STEP));
  const query = `?width=${width}&turn=${item.turnDeg}&revision=${mark?.revision ?? 0}`;
  const image = usePicture(mark && variant ? paths.markVariant(mark.id, variant) + query : null);
  useEffect(() => {
    if (isChosen && node.current && handles.current) handles.current.nodes([node.current]);
  }, [isChosen, image]);
  const onGround = (): RectPx => {
    const group = node.current as Konva.Group;
    return {
      x: group.x() / scale,
      y: group.y() / scale,
      width: (group.scaleX() * box.width * scale) / scale,
      height: (group.scaleY() * box.height * scale) / scale,
    };
  };
  const settle = (turn = 0) => {
    const own = onGround();
    const group = node.current as Konva.Group;
    const grown = group.scaleX();
    group.scale({ x: 1, y: 1 });
    group.rotation(0);
    onMoved({ box: own, turnDeg: ((((item.turnDeg + turn + 180) % 360) + 360) % 360) - 180, grown });
  };
  return (
    <>
      <Group
        ref={node}
        name="laid"
        x={box.x * scale}
        y={box.y * scale}
        draggable
        onMouseDown={onChoose}
        onTap={onChoose}
        onDragMove={(e) => {
          const own = onGround();
          const { x, y, guides } = snap(own);
          e.target.position({ x: x * scale, y: y * scale });
          onMoving({ ...own, x, y }, guides);
        }}
        onDragEnd={() => settle()}
        onTransform={() => onMoving(onGround(), [])}
        onTransformEnd={() => settle(Math.round((node.current?.rotation() ?? 0) * 10) / 10)}
      >
        <Picture
          image={image?.image}
          width={box.width * scale}
          height={box.height * scale}
          opacity={item.opacity}
          globalCompositeOperation={item.blend === 'normal' ? 'source-over' : item.blend}
        />
      </Group>
      {isChosen && (
        <Transformer
          ref={handles}
          keepRatio
          flipEnabled={false}
          enabledAnchors={['top-left', 'top-right', 'bottom-left', 'bottom-right']}
          anchorCornerRadius={6}
          anchorSize={11}
          anchorStroke={PLUM}
          borderStroke="#ffffff"
          rotateAnchorOffset={22}
        />
      )}
    </>
  );
}

/** Distances from the nearest edges, in numbers. */
function Distances({ box, page, scale }: { box: RectPx; page: { width: number; height: number }; scale: number }) {
  const d = distancesOf(box, page);
  const short = Math.min(page.width, page.height);
  const words = (v: number) => `${Math.round(v)} px · ${Math.round((v / short) * 1000) / 10} %`;
  const isRight = d.right < d.left;
  const isLow = d.bottom < d.top;
  const [x0, x1] = isRight ? [box.x + box.width, page.width] : [0, box.x];
  const [y0, y1] = isLow ? [box.y + box.height, page.height] : [0, box.y];
  const across = words(isRight ? d.right : d.left);
  const down = words(isLow ? d.bottom : d.top);
  const [my, mx] = [box.y + box.height / 2, box.x + box.width / 2];
  return (
    <>
      <Line points={[x0 * scale, my * scale, x1 * scale, my * scale]} stroke="#fff" strokeWidth={1} dash={[3, 3]} />
      <Line points={[mx * scale, y0 * scale, mx * scale, y1 * scale]} stroke="#fff" strokeWidth={1} dash={[3, 3]} />
      {/* Where there is no room between, the number stands beside the mark. */}
      <Number
        text={across}
        x={((x0 + x1) / 2) * scale}
        y={
          (x1 - x0) * scale < widthOfWords(across)
            ? (box.y + (isLow ? 0 : box.height)) * scale + (isLow ? -14 : 14)
            : my * scale
        }
        limit={page.width * scale}
      />
      <Number text={down} x={mx * scale} y={((y0 + y1) / 2) * scale} limit={page.width * scale} />
    </>
  );
}

const widthOfWords = (text: string) => text.length * 6.1 + 10;

function Number({ text, x, y, limit }: { text: string; x: number; y: number; limit: number }) {
  const width = widthOfWords(text);
  const left = Math.min(limit - width - 2, Math.max(2, x - width / 2));
  return (
    <Group x={left} y={y - 9}>
      <Rect width={width} height={18} cornerRadius={4} fill="#1c1b1d" />
      <Text
        text={text}
        width={width}
        height={18}
        align="center"
        verticalAlign="middle"
        fill="#fff"
        fontSize={11}
        fontFamily="Hanken Grotesk Variable"
      />
    </Group>
  );
}
