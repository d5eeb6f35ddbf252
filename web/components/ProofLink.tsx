import { Button, Input, Modal } from 'antd';
import { useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { paths } from '../../contract/paths';
import type { ProofKind, ProofView } from '../../contract/proofs';
import { copyText } from '../data/copyText';
import { send } from '../data/http';
import { wordsFor } from '../messages';

interface Props {
  readonly kind: ProofKind;
  readonly targetId: string;
  readonly title: string;
  /** What is still to be stored belongs into what the link shows. */
  readonly settle?: () => Promise<unknown>;
  /** As words among others, not as a button. */
  readonly isPlain?: boolean;
}

/** Makes a link for somebody outside, and shows its address to be passed on. */
export function ProofLink({ kind, targetId, title, settle, isPlain = false }: Props) {
  const queries = useQueryClient();
  const [isOpen, setOpen] = useState(false);
  const [endsOn, setEnd] = useState('');
  const [made, setMade] = useState<ProofView | null>(null);
  const [isMaking, setMaking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const make = async () => {
    setMaking(true);
    setProblem(null);
    try {
      await settle?.();
      const body = { kind, targetId, title, endsOn: endsOn || null };
      setMade(await send<ProofView>('POST', paths.proofs, body));
      void queries.invalidateQueries({ queryKey: ['proofs'] });
    } catch (fault) {
      setProblem(wordsFor(fault));
    }
    setMaking(false);
  };
  const close = () => {
    setOpen(false);
    setMade(null);
    setProblem(null);
  };
  const address = made ? `${window.location.origin}${made.path}` : '';
  return (
    <>
      {isPlain ? (
        <button type="button" className="plain" onClick={() => setOpen(true)}>
          Proof link
        </button>
      ) : (
        <Button onClick={() => setOpen(true)}>Proof link</Button>
      )}
      {isOpen && (
        <Modal
          open
          title={`A link to ${title}`}
          onCancel={close}
          footer={
            made ? (
              <Button type="primary" onClick={close}>
                Done
              </Button>
            ) : (
              <Button type="primary" loading={isMaking} onClick={() => void make()}>
                {isMaking ? 'Being made…' : 'Make the link'}
              </Button>
            )
          }
        >
          {problem && (
            <p className="finding" role="alert">
              {problem}
            </p>
          )}
          {made ? (
            <div className="proof-made">
              <p>Whoever has this address sees it as it is now, and can say yes or pin notes to it.</p>
              <p className="proof-address">
                <a href={made.path} target="_blank" rel="noreferrer">
                  {address}
                </a>
              </p>
              <Button size="small" onClick={() => void copyText(address)}>
                Copy the address
              </Button>
            </div>
          ) : (
            <div className="proof-made">
              <p>
                A page that only looks, for somebody without a name here. It shows this as it is now; later changes ask
                for another link.
              </p>
              <label className="setting-line">
                <span>Ends after, or never</span>
                <Input type="date" value={endsOn} min={today()} onChange={(e) => setEnd(e.target.value)} />
              </label>
            </div>
          )}
        </Modal>
      )}
    </>
  );
}

const today = () => new Date().toISOString().slice(0, 10);
