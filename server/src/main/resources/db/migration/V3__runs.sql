-- Which files of a run belong together, as JSON of the core's record; null for single files.
alter table project add column sets text;

-- A state may be a step of a run, with several contents. A state with a role is one file of a step
-- and is never shown alone.
alter table state add column run bigint;
alter table state add column step bigint;
alter table state add column lacks text;
alter table state add column settled boolean not null default true;
alter table state add column role text;
-- What a light copy lacks, as JSON; null for a full one.
alter table copy add column left_out text;

-- A document that joined because another leans on it.
alter table document add column linked boolean not null default false;

create index state_entry_state on state_entry (state_id);
