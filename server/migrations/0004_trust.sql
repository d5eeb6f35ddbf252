-- What changes is counted, so that nobody writes over what he has not seen; removed marks can be brought back for 30
-- days; blobs remember when they were last meant, so that those nobody refers to can be collected; pictures made from
-- a mark are kept. Adds columns with constant defaults, and rewrites recipe_revision once for a stored column.

alter table brand add column edition integer not null default 1;

-- Counts changes of name, state and kind; the recipe has its revisions.
alter table mark add column details integer not null default 1;
alter table mark add column removed_at timestamptz;
alter table mark drop constraint mark_original_unique;
create unique index mark_original_unique on mark (brand_id, original_sha, part) where removed_at is null;
create index mark_removed on mark (removed_at) where removed_at is not null;

-- Findings belong to the revision they were found in; null until somebody has looked.
alter table recipe_revision add column findings jsonb;
-- What it looks like, small; null until then as well.
alter table recipe_revision add column thumbnail_sha text references blob;
update recipe_revision r set findings = m.findings from mark m where m.revision_id = r.id;
alter table mark drop column findings;
-- A list of marks need not open whole recipes.
alter table recipe_revision add column variant_count integer
  generated always as (jsonb_array_length(recipe -> 'variants')) stored;

alter table blob add column touched_at timestamptz not null default now();
create index blob_touched on blob (touched_at);

-- Masters and thumbnails by what they were made from: a cache, which any process can fill again.
create table picture (
  key text primary key check (key ~ '^[0-9a-f]{64}$'),
  source_sha text not null references blob,
  blob_sha text not null references blob,
  findings jsonb not null,
  made_at timestamptz not null default now()
);

-- Whoever takes a blob away asks who refers to it.
create index mark_original on mark (original_sha);
create index mark_working on mark (working_sha);
create index mark_reduced on mark (reduced_sha);
create index ground_blob on ground (blob_sha);
create index delivery_zip on delivery (zip_sha);
create index delivered_file_blob on delivered_file (blob_sha);
create index picture_source on picture (source_sha);
create index picture_blob on picture (blob_sha);
create index recipe_revision_thumbnail on recipe_revision (thumbnail_sha);
create index delivery_revision on delivery (revision_id);
create index recipe_revision_parent on recipe_revision (parent_id);
create index mark_revision_at on mark (revision_id);
