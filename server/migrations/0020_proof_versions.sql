-- Versions of a proof are counted from the first one of a mark, a wall or a mark's deliveries; each picture stands on
-- a background of its own. Both tables are small; locks them while they are filled.
alter table proof add column subject text;
alter table proof add column shows text;
alter table proof add column version integer;
update proof p set
  subject = coalesce('mark:' || p.mark_id, 'wall:' || p.wall_id,
    'delivery:' || (select d.mark_id from delivery d where d.id = p.delivery_id)),
  shows = coalesce(p.delivery_id::text, p.state);
-- Of proofs that show the same the first one counts.
with first as (select subject, shows, min(created_at) as at from proof group by subject, shows),
  counted as (select subject, shows, row_number() over (partition by subject order by at, shows) as version from first)
update proof p set version = c.version from counted c where c.subject = p.subject and c.shows = p.shows;
alter table proof alter column subject set not null;
alter table proof alter column shows set not null;
alter table proof alter column version set not null;
create index proof_subject on proof (subject);
alter table proof_picture add column ground text not null default '#ffffff' check (ground ~ '^#[0-9a-f]{6}$');
-- The background of the whole page is that of each picture now, and no page tells the revision any more.
update proof_picture set ground = p.ground from proof p where p.id = proof_id and p.ground ~ '^#[0-9a-f]{6}$';
alter table proof drop column ground;
alter table proof drop column revision;
