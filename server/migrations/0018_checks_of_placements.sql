-- What a background was checked with, as one word: variants chosen for an older rule, change or mark count no more.
-- Locks run_ground for a moment; nothing is rewritten.
alter table run_ground add column seen_key text;
