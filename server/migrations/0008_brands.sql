-- A brand's start set: the variants that a new mark begins with; null for the usual ones. Grounds: a colour or a photo,
-- and whether it is one of the proofs on the bench.
alter table brand add column start_set jsonb;
alter table ground alter column blob_sha drop not null;
alter table ground add column hex text check (hex ~ '^#[0-9a-f]{6}$');
alter table ground add column is_proof boolean not null default true;
alter table ground add constraint ground_is_something check ((blob_sha is null) <> (hex is null));
