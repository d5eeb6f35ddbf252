import './deliveries.css';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { paths } from '../../../contract/paths';
import type { DeliveryView } from '../../../contract/views';
import { Failed, Waiting } from '../../components/Waiting';
import { deliveriesQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';

const words: Record<DeliveryView['state'], string> = {
  waiting: 'waiting',
  making: 'being made',
  ready: 'ready',
  failed: 'not made',
  cancelled: 'stopped',
};
const when = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });

/** Every delivery of the brand, newest first; each can be downloaded again as it was. */
export function DeliveriesScreen() {
  const { brand } = useBrand();
  const list = useQuery({ ...deliveriesQuery(brand?.id ?? '', null), enabled: brand !== null, refetchInterval: 5_000 });
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!list.data) return <Waiting what="deliveries" />;
  return (
    <div className="deliveries">
      <h1>Deliveries</h1>
      {list.data.length === 0 && (
        <p className="soft">No files were made yet. Open a mark, go to Files, and make them; they stay here.</p>
      )}
      {list.data.length > 0 && (
        <table>
          <thead>
            <tr>
              <th>Mark</th>
              <th>Made</th>
              <th>Files</th>
              <th>State</th>
              <th>
                <span className="visually-hidden">Download</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.data.map((d) => (
              <tr key={d.id}>
                <td>
                  <Link to={`/marks/${d.markId}/files`}>{d.markName}</Link>
                </td>
                <td>{when.format(new Date(d.createdAt))}</td>
                <td>{d.fileCount}</td>
                <td className={d.state === 'failed' ? 'warn' : ''}>
                  {words[d.state]}
                  {d.problem && `: ${d.problem}`}
                </td>
                <td>
                  {d.state === 'ready' && (
                    <a href={paths.deliveryZip(d.id)} download={d.zipName}>
                      {d.zipName}
                    </a>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
