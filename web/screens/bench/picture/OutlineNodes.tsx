import { useMemo } from 'react';
import type { Viewport } from './useViewport';

interface Props {
  /** Path data in frame pixels. */
  readonly outlines: string;
  readonly view: Viewport;
}

/** More nodes than this are not drawn: a browser would not keep up. */
const MOST_NODES = 6000;
const NODE_PX = 5;

/** Outlines laid over the picture, with a square at every node. */
export function OutlineNodes({ outlines, view }: Props) {
  const nodes = useMemo(() => nodesOf(outlines), [outlines]);
  const side = NODE_PX / view.scale;
  return (
    <svg className="outline-nodes" aria-hidden="true">
      <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
        <path d={outlines} />
        {nodes.slice(0, MOST_NODES).map(([x, y], k) => (
          <rect key={k} x={x - side / 2} y={y - side / 2} width={side} height={side} />
        ))}
      </g>
    </svg>
  );
}

/** Where lines and curves of path data end. */
export function nodesOf(outlines: string): [number, number][] {
  return [...outlines.matchAll(/[MLC]([^MLCZ]*)/g)].map(([, text]) => {
    const n = text.trim().split(/[\s,]+/).map(Number); // prettier-ignore
    return [n[n.length - 2], n[n.length - 1]];
  });
}
