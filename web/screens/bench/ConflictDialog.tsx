import { Button, Modal } from 'antd';
import { useCallback } from 'react';
import { paths } from '../../../contract/paths';
import { Canvas, fillChecker } from '../../components/Canvas';
import type { Bench } from './Bench';
import { fitInCircle } from './Trail';

/** Another window was first: what both made of the mark, side by side, and the choice between them. */
export function ConflictDialog({ bench }: { bench: Bench }) {
  const { conflict, settleConflict } = bench.draft;
  const mine = Object.values(bench.engine.beads).at(-1) ?? null;
  const draw = useCallback(
    (context: CanvasRenderingContext2D, w: number, h: number) => {
      fillChecker(context, 0, 0, w, h, 8);
      if (!mine) return;
      const to = fitInCircle(mine, Math.min(w, h));
      context.drawImage(mine, to.x + (w - Math.min(w, h)) / 2, to.y + (h - Math.min(w, h)) / 2, to.width, to.height);
    },
    [mine],
  );
  if (!conflict) return null;
  const { theirs, why } = conflict;
  return (
    <Modal title="This mark was changed in another window" open closable={false} footer={null} width={640}>
      <p>
        Both changes were made to the same state. Choose which one goes on; the other stays in the history or is given
        up.
      </p>
      <div className="conflict">
        <section>
          <div className="checkered">
            <img src={paths.revisionThumbnail(theirs.id, theirs.revision)} alt="As the other window has it" />
          </div>
          <b>In the other window</b>
          <span className="soft small">stored, the newest</span>
          <Button block onClick={() => settleConflict('theirs')}>
            Take that one
          </Button>
        </section>
        <section>
          <div className="checkered">
            <Canvas draw={draw} label="As it is here" />
          </div>
          <b>Here</b>
          <span className="soft small">{why}, not stored yet</span>
          <Button block type="primary" onClick={() => settleConflict('mine')}>
            Go on with this one
          </Button>
        </section>
      </div>
    </Modal>
  );
}
