import { useMutation, useQueryClient } from '@tanstack/react-query';
import { paths } from '../../contract/paths';
import type { DeliveryView } from '../../contract/views';
import { send } from '../data/http';
import { wordsFor } from '../messages';

/** Has a delivery that failed or was cancelled made again. */
export function TryAgain({ id }: { id: string }) {
  const queries = useQueryClient();
  const again = useMutation({
    mutationFn: () => send<DeliveryView>('POST', paths.deliveryAgain(id)),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['deliveries'] }),
  });
  return (
    <>
      <button type="button" className="plain" disabled={again.isPending} onClick={() => again.mutate()}>
        Try again
      </button>
      {again.error && <span className="warn"> {wordsFor(again.error)}</span>}
    </>
  );
}
