-- Counts statements that change what is known of states, so that asking whether anything changed
-- costs one number. A sequence, for it moves at once and locks nobody.
create sequence change_count;

create function count_change() returns trigger language plpgsql as $$
begin
  perform nextval('change_count');
  return null;
end $$;

create trigger copy_changes after insert or update or delete or truncate on copy
  for each statement execute function count_change();
create trigger state_changes after insert or update or delete or truncate on state
  for each statement execute function count_change();
create trigger state_entry_changes after insert or update or delete or truncate on state_entry
  for each statement execute function count_change();
create trigger content_changes after insert or update or delete or truncate on content
  for each statement execute function count_change();
