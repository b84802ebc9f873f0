-- Work that waits or runs, with who does it and when that one last gave a sign of life; as db-scheduler keeps it.
drop index analysis_queue;

create table analysis_queue (
    task_name            text not null,
    task_instance        text not null,
    task_data            bytea,
    execution_time       timestamptz not null,
    picked               boolean not null,
    picked_by            text,
    last_success         timestamptz,
    last_failure         timestamptz,
    consecutive_failures integer,
    last_heartbeat       timestamptz,
    version              bigint not null,
    priority             smallint,
    primary key (task_name, task_instance)
);
create index analysis_queue_due on analysis_queue (execution_time);
create index analysis_queue_alive on analysis_queue (last_heartbeat);

create table import_queue (like analysis_queue including all);

alter table analysis drop column owner;


-- Who sent it: an import may be taken up again after a stop.
alter table import_task add column sent_by text not null default 'bench' check (sent_by <> '');
update import_task set state = 'failed', problem = 'The server was stopped while it was being read. Send it again.'
 where state in ('waiting', 'running');
