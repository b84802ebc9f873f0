-- A job holds several hunts, each with its rail, injection, captures and analyses; the evidence is the job's.
create table hunt (
    job_id    bigint not null references job,
    no        integer not null check (no > 0),
    rail      text check (rail <> ''),
    opened_at timestamptz not null default now(),
    primary key (job_id, no)
);
insert into hunt (job_id, no, rail, opened_at) select id, 1, rail, imported_at from job;

alter table job add column hunt_no integer not null default 1;
alter table job add constraint job_hunt foreign key (id, hunt_no) references hunt (job_id, no) deferrable initially deferred;
alter table job drop column rail;

alter table injection disable trigger injection_append_only;
alter table injection add column hunt_no integer not null default 1;
alter table injection enable trigger injection_append_only;
alter table injection add constraint injection_hunt foreign key (job_id, hunt_no) references hunt (job_id, no) deferrable initially deferred;
alter table injection alter column hunt_no drop default;
drop index injection_of_job;
create index injection_of_hunt on injection (job_id, hunt_no, id desc);

alter table capture add column hunt_no integer not null default 1;
alter table capture add constraint capture_hunt foreign key (job_id, hunt_no) references hunt (job_id, no) deferrable initially deferred;
alter table capture alter column hunt_no drop default;

alter table analysis add column hunt_no integer not null default 1;
alter table analysis add constraint analysis_hunt foreign key (job_id, hunt_no) references hunt (job_id, no) deferrable initially deferred;
alter table analysis alter column hunt_no drop default;
drop index analysis_of_job;
create index analysis_of_hunt on analysis (job_id, hunt_no, id desc);

-- Points that are called otherwise by now: entries keep what was typed and are read by the newest name.
create table point_name (
    id          bigint generated always as identity primary key,
    job_id      bigint not null references job,
    was         text not null check (was <> ''),
    called      text not null check (called <> ''),
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> '')
);
create index point_name_of_job on point_name (job_id, id);
create trigger point_name_append_only before update or delete on point_name
    for each row execute function refuse_change();

-- What a proven job taught: once a job, net and mode.
alter table good_reading add column job_id bigint references job;
create unique index good_reading_of_job on good_reading (job_id, net, mode) where job_id is not null;
