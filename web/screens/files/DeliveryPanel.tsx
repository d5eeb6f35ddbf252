import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Progress } from 'antd';
import { useEffect, useState } from 'react';
import { paths } from '../../../contract/paths';
import type { DeliveryView, MarkView } from '../../../contract/views';
import { send } from '../../data/http';
import { deliveriesQuery } from '../../data/queries';
import { wordsFor } from '../../messages';
import type { RecipeDraft } from '../../data/useRecipeDraft';
import { TryAgain } from '../../components/TryAgain';
import { Receipt } from './Receipt';

interface Props {
  readonly mark: MarkView;
  readonly draft: RecipeDraft;
  readonly count: number;
  readonly isBlocked: boolean;
  readonly hasExtents: boolean;
}

/** Makes the files, shows how far it is, hands over the ZIP with its receipt. */
export function DeliveryPanel({ mark, draft, count, isBlocked, hasExtents }: Props) {
  const queries = useQueryClient();
  const earlier = useQuery(deliveriesQuery(mark.brandId, mark.id));
  const [chosen, setChosen] = useState<string | null>(null);
  const newest = earlier.data?.[0];
  const id = chosen ?? (newest && (newest.revision === mark.revision || isUnderWay(newest)) ? newest.id : null);
  const isListed = earlier.data?.some((d) => d.id === id && isUnderWay(d)) ?? false;
  const delivery = useDelivery(id, isListed);
  const isMaking = delivery !== null && isUnderWay(delivery);
  const make = useMutation({
    mutationFn: async () => {
      // What is still being stored belongs into the files too.
      const stored = await draft.settle();
      return send<DeliveryView>('POST', paths.markDeliveries(stored.id), { basedOn: stored.revision });
    },
    onSuccess: (made) => {
      setChosen(made.id);
      void queries.invalidateQueries({ queryKey: ['deliveries'] });
    },
  });
  const isStale = delivery?.state === 'ready' && (delivery.isOutdated || delivery.revision !== mark.revision);
  return (
    <section className="delivery" aria-label="Delivery">
      {!hasExtents && (
        <p className="finding">
          <b>Nothing to deliver.</b> Nothing of the mark is visible after the cut-out.
        </p>
      )}
      <Button
        type="primary"
        size="large"
        block
        disabled={count === 0 || isBlocked || isMaking || !hasExtents}
        loading={make.isPending}
        onClick={() => make.mutate()}
      >
        Make {count} {count === 1 ? 'file' : 'files'}
      </Button>
      {make.error && (
        <p className="finding" role="alert">
          {wordsFor(make.error)}
        </p>
      )}
      {isMaking && delivery && <Making delivery={delivery} />}
      {delivery?.state === 'failed' && (
        <p className="finding" role="alert">
          <b>Not made.</b> {delivery.problem} <TryAgain id={delivery.id} />
        </p>
      )}
      {delivery?.state === 'cancelled' && <p className="finding note">Cancelled. No file was kept.</p>}
      {delivery?.state === 'ready' && (
        <>
          <Downloads delivery={delivery} />
          {isStale && (
            <p className="soft small">These files are from before your last change. Make them again to include it.</p>
          )}
          <Receipt id={delivery.id} files={delivery.files} />
        </>
      )}
    </section>
  );
}

/** One file is had as it is; more come as a ZIP with their receipt. */
function Downloads({ delivery: { id, files, zipName } }: { delivery: DeliveryView }) {
  const zip = { href: paths.deliveryZip(id), download: zipName };
  if (files.length !== 1)
    return (
      <Button size="large" block {...zip}>
        Download {zipName}
      </Button>
    );
  const [{ name, position }] = files;
  const own = name.split('/').pop();
  return (
    <>
      <Button size="large" block href={paths.deliveryFile(id, position)} download={own}>
        Download {own}
      </Button>
      <a className="small" {...zip}>
        Download {zipName}
      </a>
    </>
  );
}

const isUnderWay = (d: DeliveryView) => d.state === 'waiting' || d.state === 'making';

function Making({ delivery }: { delivery: DeliveryView }) {
  const cancel = useMutation({ mutationFn: () => send<DeliveryView>('POST', paths.deliveryCancel(delivery.id)) });
  const since = Date.parse(delivery.createdAt);
  const rest =
    delivery.doneCount > 0
      ? ((Date.now() - since) / delivery.doneCount) * (delivery.fileCount - delivery.doneCount)
      : null;
  return (
    <div className="making" role="status">
      <Progress
        percent={Math.round((delivery.doneCount / delivery.fileCount) * 100)}
        showInfo={false}
        strokeLinecap="butt"
      />
      <span>
        {delivery.doneCount} of {delivery.fileCount} made
        {rest !== null && rest > 900 && `, about ${Math.ceil(rest / 1000)} s to go`}
      </span>
      <button type="button" className="plain" onClick={() => cancel.mutate()}>
        Cancel
      </button>
    </div>
  );
}

/** A delivery as it moves, told by the server; the stream opens itself again after a break. */
function useDelivery(id: string | null, isListed: boolean): DeliveryView | null {
  const [delivery, setDelivery] = useState<DeliveryView | null>(null);
  const queries = useQueryClient();
  useEffect(() => {
    setDelivery(null);
    if (!id) return;
    const source = new EventSource(paths.deliveryEvents(id));
    source.addEventListener('delivery', (event) => {
      const next = JSON.parse((event as MessageEvent<string>).data) as DeliveryView;
      setDelivery(next);
      if (isUnderWay(next)) return;
      source.close();
      void queries.invalidateQueries({ queryKey: ['deliveries'] });
    });
    return () => source.close();
    // One that is made again moves again.
  }, [id, isListed, queries]);
  return delivery;
}
