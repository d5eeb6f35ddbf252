import './people.css';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Input, Popconfirm, Segmented } from 'antd';
import { type FormEvent, useState } from 'react';
import { paths } from '../../../contract/paths';
import type { ChangeView, PersonView, Role } from '../../../contract/people';
import { Failed, Waiting } from '../../components/Waiting';
import { send } from '../../data/http';
import { wordsFor } from '../../messages';

const when = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });
const REFRESH_MS = 10_000;

/** Who may sign in, and who changed what: for keepers. */
export function PeopleScreen() {
  const queries = useQueryClient();
  const people = useQuery({ queryKey: ['people'], queryFn: () => send<PersonView[]>('GET', paths.people) });
  const changes = useQuery({
    queryKey: ['changes'],
    queryFn: () => send<ChangeView[]>('GET', paths.changes),
    refetchInterval: REFRESH_MS,
  });
  const [problem, setProblem] = useState<string | null>(null);
  const failed = people.error ?? changes.error;
  if (failed) return <Failed error={failed} />;
  if (!people.data || !changes.data) return <Waiting what="people" />;
  const act = async (work: Promise<unknown>): Promise<boolean> => {
    try {
      await work;
      setProblem(null);
      await queries.invalidateQueries({ queryKey: ['people'] });
      return true;
    } catch (fault) {
      setProblem(wordsFor(fault));
      return false;
    }
  };
  return (
    <div className="people">
      <h1>People</h1>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
      <section aria-label="Who may sign in">
        <h2>Who may sign in</h2>
        <p className="soft">Keepers change everything; lookers look at everything and change nothing.</p>
        <ul className="people-list">
          {people.data.map((p) => (
            <li key={p.id}>
              <b>{p.name}</b>
              <span className="soft">
                {p.role}, since {when.format(new Date(p.createdAt))}
              </span>
              <Popconfirm
                title={`${p.name} is signed out and may not come back.`}
                okText="Remove"
                onConfirm={() => void act(send('DELETE', paths.person(p.id)))}
              >
                <button type="button" className="plain" aria-label={`Remove ${p.name}`}>
                  Remove
                </button>
              </Popconfirm>
            </li>
          ))}
        </ul>
        <AddPerson onAdd={(body) => act(send('POST', paths.people, body))} />
      </section>
      <section aria-label="Changes">
        <h2>Last changes</h2>
        {changes.data.length === 0 ? (
          <p className="soft">Nothing was changed yet.</p>
        ) : (
          <table className="people-changes">
            <tbody>
              {changes.data.map((c) => (
                <tr key={c.id}>
                  <td>{when.format(new Date(c.madeAt))}</td>
                  <td>
                    <b>{c.madeBy}</b>
                  </td>
                  <td className="soft">{c.what}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
    </div>
  );
}

function AddPerson({ onAdd }: { onAdd: (body: object) => Promise<boolean> }) {
  const [name, setName] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [role, setRole] = useState<Role>('looker');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!(await onAdd({ name, role, passphrase }))) return;
    setName('');
    setPassphrase('');
  };
  return (
    <form className="people-add" onSubmit={(e) => void submit(e)}>
      <Input
        aria-label="Name of the new person"
        placeholder="Name"
        value={name}
        maxLength={80}
        required
        onChange={(e) => setName(e.target.value)}
      />
      <Input.Password
        aria-label="Passphrase of the new person"
        placeholder="Passphrase, 10 characters at least"
        autoComplete="new-password"
        value={passphrase}
        minLength={10}
        required
        onChange={(e) => setPassphrase(e.target.value)}
      />
      <Segmented
        aria-label="Role of the new person"
        options={['looker', 'keeper']}
        value={role}
        onChange={(v) => setRole(v as Role)}
      />
      <Button htmlType="submit" type="primary">
        Let them in
      </Button>
    </form>
  );
}
