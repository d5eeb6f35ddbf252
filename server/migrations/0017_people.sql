-- People who sign in where Tassel listens beyond this machine, and who made which change.
-- Adds nullable columns with a default that reads a setting: locks each table for a moment only.
create table person (
  id uuid primary key default gen_random_uuid(),
  name text not null check (length(name) between 1 and 80),
  role text not null check (role in ('keeper', 'looker')),
  -- A passphrase as scrypt leaves it, with its salt and costs.
  secret text not null,
  created_at timestamptz not null default now()
);
create unique index person_name_unique on person (lower(name));

create table session (
  -- The SHA-256 of what the cookie holds, so that reading the table opens nothing.
  token_sha text primary key check (token_sha ~ '^[0-9a-f]{64}$'),
  person_id uuid not null references person on delete cascade,
  created_at timestamptz not null default now(),
  ends_at timestamptz not null
);
create index session_person on session (person_id);

create table change_log (
  id bigint generated always as identity primary key,
  made_by text not null,
  -- What was asked of the server.
  what text not null,
  made_at timestamptz not null default now()
);
create index change_log_when on change_log (made_at desc);

-- Whoever is signed in when a row is made; null where nobody is asked.
alter table recipe_revision add column made_by text;
alter table recipe_revision alter column made_by set default nullif(current_setting('tassel.person', true), '');
alter table delivery add column made_by text;
alter table delivery alter column made_by set default nullif(current_setting('tassel.person', true), '');
alter table proof add column made_by text;
alter table proof alter column made_by set default nullif(current_setting('tassel.person', true), '');
alter table live_address add column made_by text;
alter table live_address alter column made_by set default nullif(current_setting('tassel.person', true), '');
