-- Print sheets that are kept: what each is made by, and how far it is.
create table piece (
  id uuid primary key default gen_random_uuid(),
  brand_id uuid not null references brand on delete cascade,
  name text not null check (length(name) between 1 and 160),
  sheet jsonb not null,
  state text not null default 'working' check (state in ('working', 'ready', 'archived')),
  updated_at timestamptz not null default now()
);
create index piece_brand on piece (brand_id, updated_at desc);
