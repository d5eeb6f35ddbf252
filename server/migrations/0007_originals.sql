-- Originals that were replaced by newer files stay with their mark.
create table former_original (
  id bigint generated always as identity primary key,
  mark_id uuid not null references mark on delete cascade,
  original_sha text not null references blob,
  original_name text not null,
  width integer not null,
  height integer not null,
  replaced_at timestamptz not null default now()
);
create index former_original_mark on former_original (mark_id);
create index former_original_blob on former_original (original_sha);
