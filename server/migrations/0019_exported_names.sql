-- Names of files that left Tassel outside of a delivery, such as print sheets: the next file of that name counts on.
-- Locks nothing that exists.
create table exported_name (
  brand_id uuid not null references brand on delete cascade,
  -- In lower case, with its ending: some file systems do not tell the cases apart.
  name text not null check (length(name) between 1 and 300),
  exported_at timestamptz not null default now(),
  primary key (brand_id, name)
);
