import './deliveries.css';
import { useQuery } from '@tanstack/react-query';
import { Table } from 'antd';
import type { ColumnsType } from 'antd/es/table';
import { Link } from 'react-router';
import { paths } from '../../../contract/paths';
import type { DeliveryView } from '../../../contract/views';
import { ProofLink } from '../../components/ProofLink';
import { TryAgain } from '../../components/TryAgain';
import { Failed, Waiting } from '../../components/Waiting';
import { deliveriesQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';

const words: Record<DeliveryView['state'], string> = {
  waiting: 'waiting',
  making: 'being made',
  ready: 'ready',
  failed: 'not made',
  cancelled: 'cancelled',
};
const when = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });

const columns: ColumnsType<DeliveryView> = [
  {
    key: 'mark',
    title: 'Mark',
    sorter: (a, b) => a.markName.localeCompare(b.markName),
    render: (_, d) => (
      <span className="delivery-marks">
        {d.marks.map((m) => (
          <Link key={m.id} to={`/marks/${m.id}/files`}>
            {m.name}
          </Link>
        ))}
      </span>
    ),
  },
  {
    key: 'made',
    title: 'Made',
    width: 210,
    sorter: (a, b) => a.createdAt.localeCompare(b.createdAt),
    render: (_, d) => when.format(new Date(d.createdAt)),
  },
  { key: 'files', title: 'Files', dataIndex: 'fileCount', width: 80 },
  {
    key: 'state',
    title: 'State',
    render: (_, d) => (
      <span className={d.state === 'failed' ? 'warn' : ''}>
        {words[d.state]}
        {d.problem && `: ${d.problem}`}
        {d.state === 'ready' && d.isOutdated && <span className="warn">, out of date</span>}
        {d.state === 'making' && `, ${d.doneCount} of ${d.fileCount}`}
      </span>
    ),
  },
  {
    key: 'download',
    title: <span className="visually-hidden">Download</span>,
    render: (_, d) => {
      if (d.state === 'failed' || d.state === 'cancelled') return <TryAgain id={d.id} />;
      if (d.state !== 'ready') return null;
      return (
        <span className="delivery-links">
          <a href={paths.deliveryZip(d.id)} download={d.zipName}>
            {d.zipName}
          </a>
          {d.isOutdated && <TryAgain id={d.id} label="Make again" />}
          <ProofLink kind="delivery" targetId={d.id} title={d.marks.map((m) => m.name).join(', ')} isPlain />
        </span>
      );
    },
  },
];

/** Every delivery of the brand, newest first; each can be downloaded again as it was. */
export function DeliveriesScreen() {
  const { brand } = useBrand();
  const list = useQuery({
    ...deliveriesQuery(brand?.id ?? '', null),
    enabled: brand !== null,
    refetchInterval: 5_000,
  });
  if (list.error) return <Failed error={list.error} onRetry={() => void list.refetch()} />;
  if (!list.data) return <Waiting what="deliveries" />;
  return (
    <div className="deliveries">
      <h1>Deliveries</h1>
      {list.data.length === 0 ? (
        <p className="soft">No files were made yet. Open a mark, go to Files, and make them; they stay here.</p>
      ) : (
        <Table rowKey="id" size="middle" columns={columns} dataSource={list.data} pagination={false} />
      )}
    </div>
  );
}
