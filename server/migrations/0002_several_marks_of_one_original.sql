-- A sheet of several signatures becomes several marks that share one original: the original alone no longer tells marks
-- apart. `part` is 0 for the mark made at take-in, then 1, 2 …. Takes a short lock on mark.
alter table mark add column part integer not null default 0 check (part >= 0);
alter table mark drop constraint mark_original_unique;
alter table mark add constraint mark_original_unique unique (brand_id, original_sha, part);
