-- Evidence is append-only: a correction is a new row that supersedes an old one. Triggers refuse anything else.
create extension if not exists pg_trgm;

create table board (
    id       bigint generated always as identity primary key,
    digest   text not null unique check (length(digest) = 64),
    name     text not null check (name <> ''),
    revision text not null,
    document text not null
);

create table job (
    id          bigint generated always as identity primary key,
    number      text not null unique check (number <> ''),
    title       text not null,
    board_id    bigint not null references board,
    rail        text not null check (rail <> ''),
    opened_at   timestamptz not null,
    imported_at timestamptz not null default now(),
    search_text text not null
);
create index job_newest on job (opened_at desc, id desc);
create index job_search on job using gin (search_text gin_trgm_ops);

create table evidence (
    id          bigint generated always as identity primary key,
    job_id      bigint not null references job,
    seq         integer not null check (seq >= 0),
    kind        text not null check (kind in ('power', 'look', 'read', 'inject', 'warm', 'change', 'run')),
    document    text not null,
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> ''),
    supersedes  bigint references evidence,
    unique (job_id, seq)
);

create table injection (
    job_id       bigint primary key references job,
    document     text not null,
    supply_log   text not null
);

create table trace (
    job_id  bigint not null references job,
    name    text not null check (name <> ''),
    content text not null,
    primary key (job_id, name)
);

create table capture (
    id               bigint generated always as identity primary key,
    job_id           bigint not null references job,
    name             text not null check (name <> ''),
    position         integer not null,
    side             text not null check (side in ('TOP', 'BOTTOM')),
    width            integer not null check (width between 8 and 4096),
    height           integer not null check (height between 8 and 4096),
    kelvin_per_count double precision not null check (kelvin_per_count > 0),
    kelvin_at_zero   double precision not null,
    netd_k           double precision,
    emissivity       double precision,
    frame_count      integer not null check (frame_count > 0),
    unique (job_id, name)
);

-- How a picture lies over the board; the newest row is in force.
create table registration (
    id          bigint generated always as identity primary key,
    capture_id  bigint not null references capture,
    pairs       text not null,
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> '')
);
create index registration_of_capture on registration (capture_id, id desc);

-- Compressed by the application; the server must not try again.
create table frame (
    capture_id bigint not null references capture,
    frame_no   integer not null check (frame_no >= 0),
    t_s        double precision not null,
    counts     bytea not null,
    primary key (capture_id, frame_no)
);
alter table frame alter column counts set storage external;

create function refuse_change() returns trigger language plpgsql as $$
begin
    raise exception '% is append-only: add a row that supersedes the old one', tg_table_name;
end $$;

create trigger evidence_append_only before update or delete on evidence
    for each row execute function refuse_change();
create trigger injection_append_only before update or delete on injection
    for each row execute function refuse_change();
create trigger trace_append_only before update or delete on trace
    for each row execute function refuse_change();
create trigger registration_append_only before update or delete on registration
    for each row execute function refuse_change();
create trigger frame_append_only before update or delete on frame
    for each row execute function refuse_change();

-- An act on the board and what was known when it was decided.
create table decision (
    id           bigint generated always as identity primary key,
    job_id       bigint not null references job,
    evidence_seq integer not null,
    known        text not null,
    decided_at   timestamptz not null default now(),
    decided_by   text not null check (decided_by <> ''),
    foreign key (job_id, evidence_seq) references evidence (job_id, seq)
);
create trigger decision_append_only before update or delete on decision
    for each row execute function refuse_change();

-- What was computed from the evidence, and by which version. Can always be computed again.
create table analysis (
    id           bigint generated always as identity primary key,
    job_id       bigint not null references job,
    state        text not null check (state in ('queued', 'running', 'done', 'failed', 'cancelled')),
    progress     double precision not null default 0 check (progress between 0 and 1),
    version      text not null,
    owner        text,
    requested_at timestamptz not null default now(),
    finished_at  timestamptz,
    result       text,
    problem      text
);
create index analysis_of_job on analysis (job_id, id desc);
create index analysis_queue on analysis (id) where state in ('queued', 'running');

-- The shelf's line for a job: derived, kept so that the shelf need not read every job's evidence.
create table job_state (
    job_id       bigint primary key references job,
    step         text not null,
    verdict      text,
    lead_ref     text,
    lead_probability double precision
);

create table import_task (
    id         uuid primary key,
    file_name  text not null,
    state      text not null check (state in ('waiting', 'running', 'done', 'failed', 'cancelled')),
    progress   double precision not null default 0 check (progress between 0 and 1),
    problem    text,
    job_id     bigint references job,
    started_at timestamptz not null default now()
);
