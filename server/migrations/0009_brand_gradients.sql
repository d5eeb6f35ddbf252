-- A brand's named gradients, and the size lines that it delivers by; null where it has none of its own. Adds columns
-- with constant defaults: locks the table for a moment only.
alter table brand add column gradients jsonb not null default '[]';
alter table brand add column standard_lines jsonb;
