-- Marks that are paths: what stages start from is then a working drawing, kept as JSON where the working picture would be.
-- Adds a column with a constant default: locks the table for a moment only.

alter table mark add column source text not null default 'picture' check (source in ('picture', 'drawing'));
