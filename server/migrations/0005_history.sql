-- A revision can be given a name, under which it is found again. Adds a column without a default: a moment only.
alter table recipe_revision add column name text check (length(name) between 1 and 80);
