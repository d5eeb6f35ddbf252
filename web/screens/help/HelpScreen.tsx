import './help.css';
import { Button } from 'antd';
import { useQuery } from '@tanstack/react-query';
import { NavLink, useParams } from 'react-router';
import { Waiting } from '../../components/Waiting';
import { KeysScreen } from '../keys/KeysScreen';
import { whyOfFile, whyOfFinding, whyOfWall } from '../../../core/why/why';
import { pageOf, pages } from './pages';

/** Help inside: keys, why findings matter, and the reference as it stands beside the program. */
export function HelpScreen() {
  const { page = 'keys' } = useParams();
  return (
    <div className="help">
      <nav className="help-nav" aria-label="Help">
        <NavLink to="/help/keys">Keys</NavLink>
        <NavLink to="/help/findings">Findings</NavLink>
        {pages.map((p) => (
          <NavLink key={p.id} to={`/help/${p.id}`}>
            {p.title}
          </NavLink>
        ))}
        <Button onClick={() => window.print()}>Print this page</Button>
      </nav>
      <article className="help-page">
        {page === 'keys' && <KeysScreen />}
        {page === 'findings' && <Findings />}
        {page !== 'keys' && page !== 'findings' && <Reference id={page} />}
      </article>
    </div>
  );
}

const named = (id: string) => id.replaceAll('-', ' ').replace(/^./, (c) => c.toUpperCase());

const groups = [
  { title: 'On the bench', all: whyOfFinding },
  { title: 'Of files', all: whyOfFile },
  { title: 'On a wall', all: whyOfWall },
] as const;

/** Every finding and why it matters. */
function Findings() {
  return (
    <div className="help-findings">
      <h1>Findings</h1>
      <p className="soft">What the program finds by itself, and why it matters.</p>
      {groups.map(({ title, all }) => (
        <section key={title} aria-label={title}>
          <h2>{title}</h2>
          <dl>
            {Object.entries(all).map(([id, why]) => (
              <div key={id}>
                <dt>{named(id)}</dt>
                <dd>{why}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </div>
  );
}

function Reference({ id }: { id: string }) {
  const { data } = useQuery({ queryKey: ['help', id], queryFn: () => pageOf(id), staleTime: Infinity });
  if (data === undefined) return <Waiting what="this page" />;
  if (data === null) return <p>There is no such page. Choose one on the left.</p>;
  // Our own page, built with the program: nothing of it comes from outside.
  return <div className="help-reference" dangerouslySetInnerHTML={{ __html: data }} />;
}
