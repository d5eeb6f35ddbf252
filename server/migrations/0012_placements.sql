-- Saved rules of where marks sit, the grounds that each is run over, and what was made of them.
-- Locks nothing that exists.
create table placement (
  id uuid primary key default gen_random_uuid(),
  brand_id uuid not null references brand on delete cascade,
  name text not null check (length(name) between 1 and 200),
  rule jsonb not null,
  options jsonb not null,
  -- Counts changes of name, rule and options.
  edition integer not null default 1,
  run_state text not null default 'idle'
    check (run_state in ('idle', 'waiting', 'making', 'ready', 'failed', 'cancelled')),
  run_problem text,
  run_count integer not null default 0,
  run_done integer not null default 0,
  run_began_at timestamptz,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  constraint placement_name_unique unique (brand_id, name)
);

create table run_ground (
  id uuid primary key default gen_random_uuid(),
  placement_id uuid not null references placement on delete cascade,
  position integer not null,
  name text not null,
  kind text not null check (kind in ('photo', 'clip')),
  blob_sha text not null references blob,
  preview_sha text not null references blob,
  width integer not null,
  height integer not null,
  seconds double precision,
  -- What differs for this ground alone, by the number of the item.
  change jsonb,
  -- The variants that were looked at, which are those that are written.
  seen jsonb,
  -- What the made file was made of: it is made again only when that changes.
  made_key text,
  made_sha text references blob,
  made_name text,
  made_size bigint,
  made_crc bigint,
  report jsonb,
  constraint run_ground_made_is_whole check ((made_sha is null) = (made_key is null))
);
create index run_ground_placement on run_ground (placement_id, position);
create index run_ground_blobs on run_ground (blob_sha);
