-- Walls: marks in equal slots, each as the file that came or as its mark, and what was found when it was looked at.
-- Locks nothing that exists.
create table wall (
  id uuid primary key default gen_random_uuid(),
  brand_id uuid not null references brand on delete cascade,
  name text not null check (length(name) between 1 and 200),
  rule jsonb not null,
  -- Counts changes of name and rule.
  edition integer not null default 1,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  constraint wall_name_unique unique (brand_id, name)
);

create table wall_slot (
  id uuid primary key default gen_random_uuid(),
  wall_id uuid not null references wall on delete cascade,
  position integer not null,
  mark_id uuid not null references mark on delete cascade,
  -- The file that it replaces, and the original that it was filled with.
  file text not null check (length(file) between 1 and 200),
  original_sha text not null references blob,
  -- The file as it came, or its mark; null until somebody looked.
  shows text check (shows in ('file', 'mark')),
  -- A variant of the mark; null for its own colours.
  variant text,
  -- How many times as wide as it should be the file is, against its height.
  squeeze double precision not null default 1 check (squeeze between 0.1 and 10),
  -- What was found, and what it was looked at with: it is looked at again when that changes.
  look jsonb,
  look_key text,
  picture_sha text references blob,
  constraint wall_slot_look_is_whole check ((look is null) = (look_key is null))
);
create index wall_slot_wall on wall_slot (wall_id, position);
create index wall_slot_mark on wall_slot (mark_id);
