-- The first tables: brands, content-addressed blobs, marks with their recipe history, grounds, deliveries.
-- Locks nothing that exists.

create table brand (
  id uuid primary key default gen_random_uuid(),
  name text not null constraint brand_name_unique unique check (length(name) between 1 and 120),
  palette jsonb not null default '[]',
  pattern text not null,
  created_at timestamptz not null default now()
);

create table blob (
  sha256 text primary key check (sha256 ~ '^[0-9a-f]{64}$'),
  media_type text not null,
  size bigint not null,
  bytes bytea not null,
  created_at timestamptz not null default now()
);
-- Pictures are compressed already; PostgreSQL's own compression would only cost time.
alter table blob alter column bytes set storage external;

create table mark (
  id uuid primary key default gen_random_uuid(),
  brand_id uuid not null references brand on delete cascade,
  name text not null check (length(name) between 1 and 120),
  kind text not null check (kind in ('logo', 'signature')),
  state text not null default 'working' check (state in ('working', 'finished')),
  original_sha text not null references blob,
  original_name text not null,
  working_sha text not null references blob,
  reduced_sha text not null references blob,
  width integer not null,
  height integer not null,
  reduced_width integer not null,
  found jsonb not null,
  findings jsonb not null default '[]',
  revision_id bigint,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  constraint mark_original_unique unique (brand_id, original_sha)
);
create index mark_brand on mark (brand_id, created_at);

create table recipe_revision (
  id bigint generated always as identity primary key,
  mark_id uuid not null references mark on delete cascade,
  parent_id bigint references recipe_revision,
  recipe jsonb not null,
  why text not null,
  made_at timestamptz not null default now()
);
create index recipe_revision_mark on recipe_revision (mark_id, parent_id);
alter table mark add constraint mark_revision foreign key (revision_id) references recipe_revision deferrable initially deferred;

create table ground (
  id uuid primary key default gen_random_uuid(),
  brand_id uuid not null references brand on delete cascade,
  name text not null,
  tone text not null check (tone in ('light', 'mid', 'dark')),
  blob_sha text not null references blob,
  width integer not null,
  height integer not null,
  position integer not null,
  constraint ground_name_unique unique (brand_id, name)
);

create table delivery (
  id uuid primary key default gen_random_uuid(),
  mark_id uuid not null references mark on delete cascade,
  revision_id bigint not null references recipe_revision,
  state text not null default 'waiting' check (state in ('waiting', 'making', 'ready', 'failed', 'cancelled')),
  file_count integer not null,
  done_count integer not null default 0,
  zip_sha text references blob,
  zip_name text not null,
  error jsonb,
  created_at timestamptz not null default now(),
  finished_at timestamptz,
  -- A delivery is reachable only when it is whole.
  check ((state = 'ready') = (zip_sha is not null))
);
create index delivery_mark on delivery (mark_id, created_at desc);

create table delivered_file (
  delivery_id uuid not null references delivery on delete cascade,
  position integer not null,
  name text not null,
  variant text not null,
  purpose text not null,
  blob_sha text not null references blob,
  receipt jsonb not null,
  primary key (delivery_id, position)
);

-- Which process runs jobs under which worker name. The process holds the advisory lock of its key for as long as it
-- lives, so a key that can be locked belongs to a dead one, whose jobs are free to be taken again.
create table runner (
  worker_id text primary key,
  lock_key bigint not null,
  started_at timestamptz not null default now()
);
