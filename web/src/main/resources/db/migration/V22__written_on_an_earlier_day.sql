-- When something was written down: now, but where a transaction says that it was earlier, as the demo's past jobs were.
create function written_at() returns timestamptz language sql stable as
$$ select coalesce(nullif(current_setting('ohmoscope.written_at', true), '')::timestamptz, now()) $$;

alter table job alter column imported_at set default written_at();
alter table evidence alter column recorded_at set default written_at();
alter table decision alter column decided_at set default written_at();
