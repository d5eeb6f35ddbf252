-- Deliveries of several marks; files that are kept as they are made, so that one that was interrupted goes on where it
-- was; archives that are put together while they are read. Locks delivery and delivered_file for a moment.
create table delivery_part (
  delivery_id uuid not null references delivery on delete cascade,
  position integer not null,
  mark_id uuid not null references mark on delete cascade,
  revision_id bigint not null references recipe_revision,
  primary key (delivery_id, position)
);
create index delivery_part_mark on delivery_part (mark_id);
create index delivery_part_revision on delivery_part (revision_id);
insert into delivery_part (delivery_id, position, mark_id, revision_id) select id, 0, mark_id, revision_id from delivery;
alter table delivery drop constraint delivery_check;
alter table delivery add constraint delivery_zip_is_whole check (zip_sha is null or state = 'ready');
-- Files from before have no check sum: their archive is kept as it was.
alter table delivered_file add column mark_id uuid references mark on delete cascade;
alter table delivered_file add column size bigint;
alter table delivered_file add column crc32 bigint;
create index delivered_file_mark on delivered_file (mark_id);
