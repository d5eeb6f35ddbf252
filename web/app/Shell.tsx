import { useQuery } from '@tanstack/react-query';
import { Dropdown } from 'antd';
import { Link, NavLink, Outlet } from 'react-router';
import { meQuery } from '../data/queries';
import { useBrand } from '../data/useBrand';
import { NewBrandDialog } from '../components/NewBrandDialog';
import { TasselMark } from '../components/TasselMark';
import { useTheme } from './theme';
import { useState } from 'react';

/** What stands round every screen: name, ways, brand and theme. */
export function Shell() {
  const { name: theme, setName: setTheme } = useTheme();
  const { brand, brands, choose } = useBrand();
  const [isAdding, setAdding] = useState(false);
  const { data: me } = useQuery(meQuery());
  const items = [
    ...brands.map((b) => ({ key: b.id, label: `${b.name} · ${b.markCount}`, onClick: () => choose(b.id) })),
    { type: 'divider' as const },
    { key: 'new', label: 'New brand', onClick: () => setAdding(true) },
  ];
  return (
    <div className="shell">
      <header className="shell-bar">
        <Link className="shell-name" to="/marks">
          <TasselMark />
          Tassel
        </Link>
        <nav className="shell-nav" aria-label="Main">
          <NavLink to="/marks">Marks</NavLink>
          <NavLink to="/brand">Brand</NavLink>
          <NavLink to="/grounds">Grounds</NavLink>
          <NavLink to="/placements">Placements</NavLink>
          <NavLink to="/walls">Walls</NavLink>
          <NavLink to="/deliveries">Deliveries</NavLink>
          <NavLink to="/links">Links</NavLink>
          {me?.name && me.role === 'keeper' && <NavLink to="/people">People</NavLink>}
          <NavLink to="/help">Help</NavLink>
        </nav>
        <div className="shell-right">
          <Dropdown menu={{ items }} trigger={['click']}>
            <button type="button">{brand?.name ?? 'No brand yet'} ▾</button>
          </Dropdown>
          <button type="button" onClick={() => setTheme(theme === 'light' ? 'dark' : 'light')}>
            {theme === 'light' ? 'Light theme' : 'Dark theme'}
          </button>
          {me?.name && (
            <form method="post" action="/sign-out" className="shell-person">
              <span>{me.name}</span>
              <button type="submit">Sign out</button>
            </form>
          )}
        </div>
      </header>
      <main className="shell-main">
        <Outlet />
      </main>
      {isAdding && <NewBrandDialog onClose={() => setAdding(false)} />}
    </div>
  );
}
