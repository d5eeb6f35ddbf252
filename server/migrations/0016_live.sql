-- Steady addresses of size lines, each with the newest finished file of its line.
-- Locks nothing that exists.
create table live_address (
  id uuid primary key default gen_random_uuid(),
  -- What the address holds: nobody can guess it.
  key text not null constraint live_key_unique unique check (length(key) >= 16),
  mark_id uuid not null references mark on delete cascade,
  line_id text not null,
  -- The last part of the address; it stays whatever the line's files are called later.
  name text not null check (length(name) between 1 and 255),
  -- The newest finished file, and what it was made with.
  blob_sha text references blob,
  file_key text,
  size bigint,
  made_at timestamptz,
  -- Why there is none, or none newer.
  problem text,
  fetched_count bigint not null default 0,
  fetched_at timestamptz,
  created_at timestamptz not null default now(),
  constraint live_line_unique unique (mark_id, line_id),
  constraint live_file_is_whole check ((blob_sha is null) = (file_key is null))
);
create index live_address_blob on live_address (blob_sha);
