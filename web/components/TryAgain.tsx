import { useMutation, useQueryClient } from '@tanstack/react-query';
import { paths } from '../../contract/paths';
import type { DeliveryView } from '../../contract/views';
import { send } from '../data/http';
import { wordsFor } from '../messages';

/** Has a delivery made again: one that failed or was cancelled itself, one that is ready as another. */
export function TryAgain({ id, label = 'Try again' }: { id: string; label?: string }) {
  const queries = useQueryClient();
  const again = useMutation({
    mutationFn: () => send<DeliveryView>('POST', paths.deliveryAgain(id)),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['deliveries'] }),
  });
  return (
    <>
      <button type="button" className="plain" disabled={again.isPending} onClick={() => again.mutate()}>
        {label}
      </button>
      {again.error && <span className="warn"> {wordsFor(again.error)}</span>}
    </>
  );
}
