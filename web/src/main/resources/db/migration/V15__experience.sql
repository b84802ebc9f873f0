-- Proven jobs that somebody has kept for the next of their kind: a few numbers each, for being found again.
create table experience (
    job_id     bigint primary key references job on delete cascade,
    rail       text check (length(rail) <= 200),
    rail_volts double precision check (rail_volts > 0),
    complaint  text not null check (length(complaint) <= 8000),
    fault      text not null check (length(fault) between 1 and 2000),
    ref        text not null check (length(ref) between 1 and 120),
    ohms       double precision check (ohms >= 0),
    draw_a     double precision check (draw_a >= 0),
    kept_by    text not null check (length(kept_by) between 1 and 120),
    kept_at    timestamptz not null default now()
);
create index experience_by_volts on experience (rail_volts);
