-- A brand's own purposes: sizes and formats under a name. Adds a column with a constant default: locks the table for a
-- moment only.
alter table brand add column own_purposes jsonb not null default '[]';
