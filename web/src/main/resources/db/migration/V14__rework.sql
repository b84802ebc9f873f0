-- What each technician has for taking parts off, as the kit's own JSON.
create table rework_kit (
    technician text primary key check (length(technician) between 1 and 120),
    kit        text not null check (length(kit) <= 4000)
);

-- How parts really came off: what was planned with which gain of the air, and what it took. Teaches the next plan.
create table rework_done (
    id           bigint generated always as identity primary key,
    job_id       bigint not null references job on delete cascade,
    evidence_seq integer not null,
    technician   text not null check (length(technician) between 1 and 120),
    ref          text not null check (length(ref) between 1 and 120),
    method       text not null check (method in ('COLD_LEVER', 'IRON', 'AIR', 'AIR_PREHEATED', 'LOW_MELT')),
    nozzle_mm    double precision check (nozzle_mm between 1 and 40),
    set_c        double precision check (set_c between 50 and 600),
    planned_s    double precision check (planned_s between 0 and 600),
    gain         double precision not null default 1 check (gain between 0.2 and 5),
    took_s       double precision check (took_s between 0 and 600),
    done_at      timestamptz not null default now()
);
create index rework_of_technician on rework_done (technician, id);
create index rework_of_job on rework_done (job_id);
