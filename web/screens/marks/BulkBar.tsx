import { Button, Dropdown, Popconfirm, Select } from 'antd';
import { Link } from 'react-router';
import type { MarkCard } from '../../../contract/views';
import type { StandardLine } from '../../../core/recipe/standardLines';
import type { Bulk, BulkAction } from './useBulk';

interface Props {
  readonly all: readonly MarkCard[];
  readonly chosen: readonly MarkCard[];
  /** Those that marks may go over to. */
  readonly brands?: readonly { readonly id: string; readonly name: string }[];
  /** The brand's standard lines; null where it has none. */
  readonly standard?: readonly StandardLine[] | null;
  readonly bulk: Bulk;
  readonly onChoose: (marks: readonly MarkCard[]) => void;
}

const named = (n: number) => `${n} ${n === 1 ? 'mark' : 'marks'}`;

/** What can be done to the chosen marks at once, how far it is, and what came of each. */
export function BulkBar({ all, chosen, brands = [], standard = null, bulk, onChoose }: Props) {
  const { progress, results } = bulk;
  const failed = results.filter((r) => r.problem);
  const isBusy = progress !== null;
  const run = (action: BulkAction) => void bulk.run(chosen, action).then(() => onChoose([]));
  const states = [
    { key: 'finished', label: 'Finished', onClick: () => run({ kind: 'state', state: 'finished' }) },
    { key: 'working', label: 'Working', onClick: () => run({ kind: 'state', state: 'working' }) },
    { key: 'logo', label: 'Logo', onClick: () => run({ kind: 'kind', to: 'logo' }) },
    { key: 'signature', label: 'Signature', onClick: () => run({ kind: 'kind', to: 'signature' }) },
  ];
  return (
    <div className="bulk" role="region" aria-label="Chosen marks">
      {chosen.length > 0 && (
        <div className="bulk-row">
          <b>{named(chosen.length)} chosen</b>
          <button type="button" className="plain" onClick={() => onChoose(all)}>
            Choose all {all.length}
          </button>
          <button type="button" className="plain" onClick={() => onChoose([])}>
            None
          </button>
          <span className="bulk-actions">
            <Dropdown menu={{ items: states }} trigger={['click']} disabled={isBusy}>
              <Button>Set to ▾</Button>
            </Dropdown>
            <Select
              aria-label="Take the settings of"
              placeholder="Take the settings of …"
              value={null}
              disabled={isBusy}
              style={{ width: 200 }}
              options={all.map((m) => ({ value: m.id, label: m.name }))}
              onChange={(from: string | null) => from && run({ kind: 'recipe', from })}
            />
            <Select
              aria-label="Take the variants of"
              placeholder="Take the variants of …"
              value={null}
              disabled={isBusy}
              style={{ width: 190 }}
              options={all.map((m) => ({ value: m.id, label: m.name }))}
              onChange={(from: string | null) => from && run({ kind: 'variants', from })}
            />
            {brands.length > 0 && (
              <Dropdown
                trigger={['click']}
                disabled={isBusy}
                menu={{
                  items: brands.map((b) => ({
                    key: b.id,
                    label: b.name,
                    onClick: () => run({ kind: 'brand', to: b.id }),
                  })),
                }}
              >
                <Button>Move to ▾</Button>
              </Dropdown>
            )}
            {standard && (
              <Button disabled={isBusy} onClick={() => run({ kind: 'standard', lines: standard })}>
                Take the standard lines
              </Button>
            )}
            <Button disabled={isBusy} onClick={() => run({ kind: 'files' })}>
              Make their files
            </Button>
            <Popconfirm
              title={`Remove ${named(chosen.length)}?`}
              description="They can be brought back for 30 days."
              okText="Remove"
              cancelText="Keep"
              onConfirm={() => run({ kind: 'remove' })}
            >
              <Button disabled={isBusy}>Remove</Button>
            </Popconfirm>
          </span>
        </div>
      )}
      {progress && (
        <p className="small" role="status">
          {progress.done} of {progress.of} done
        </p>
      )}
      {results.length > 0 && (
        <div className="bulk-results small" role="status">
          <span>
            {results.length - failed.length} of {results.length} done.
            {failed.length === 0 && (
              <>
                {' '}
                <Link to="/deliveries">Deliveries</Link>
              </>
            )}
          </span>
          {failed.map((r) => (
            <p key={r.name} className="finding">
              <b>{r.name}.</b> {r.problem}
            </p>
          ))}
          <button type="button" className="plain small" onClick={bulk.clear}>
            Put away
          </button>
        </div>
      )}
    </div>
  );
}
