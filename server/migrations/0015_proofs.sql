-- Proof links: pictures as they were when the link was made, and what those who opened it said.
-- Locks nothing that exists.
create table proof (
  id uuid primary key default gen_random_uuid(),
  brand_id uuid not null references brand on delete cascade,
  -- What the address holds: nobody can guess it.
  key text not null constraint proof_key_unique unique check (length(key) >= 32),
  kind text not null check (kind in ('board', 'variants', 'wall', 'delivery')),
  title text not null check (length(title) between 1 and 200),
  mark_id uuid references mark on delete cascade,
  wall_id uuid references wall on delete cascade,
  delivery_id uuid references delivery on delete cascade,
  -- What it shows, as one word: another one once there is something newer.
  state text not null,
  -- The revision of a mark that it shows; null for a wall.
  revision bigint,
  ground text not null default '#ffffff',
  -- The last day; null for no end.
  ends_on date,
  closed_at timestamptz,
  opened_count integer not null default 0,
  opened_at timestamptz,
  created_at timestamptz not null default now(),
  constraint proof_has_one_target check (num_nonnulls(mark_id, wall_id, delivery_id) = 1)
);
create index proof_brand on proof (brand_id, created_at desc);
create index proof_mark on proof (mark_id);
create index proof_wall on proof (wall_id);
create index proof_delivery on proof (delivery_id);

create table proof_picture (
  proof_id uuid not null references proof on delete cascade,
  position integer not null,
  title text not null,
  words text not null,
  blob_sha text references blob,
  width double precision not null,
  height double precision not null,
  -- Whether it brings its own ground.
  is_opaque boolean not null,
  primary key (proof_id, position)
);
create index proof_picture_blob on proof_picture (blob_sha);

create table proof_answer (
  id bigint generated always as identity primary key,
  proof_id uuid not null references proof on delete cascade,
  kind text not null check (kind in ('yes', 'note')),
  -- The picture that it is about, and the place on it, 0 to 1; null for all.
  picture integer,
  x double precision check (x between 0 and 1),
  y double precision check (y between 0 and 1),
  who text not null check (length(who) <= 80),
  words text not null check (length(words) <= 2000),
  made_at timestamptz not null default now()
);
create index proof_answer_proof on proof_answer (proof_id, id);
