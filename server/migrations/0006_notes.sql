-- Where a mark came from, who may use it and until when. Adds a column with a constant default: a moment only.
alter table mark add column notes jsonb not null default '{"source": "", "permission": "", "until": null}';
