-- Benches with their instruments: what was typed in, and nothing else is ever called.
create table bench (
    id   bigint generated always as identity primary key,
    name text not null unique check (length(name) between 1 and 60)
);

create table bench_instrument (
    bench_id bigint not null references bench on delete cascade,
    role     text not null check (role in ('SUPPLY', 'METER', 'CAMERA', 'INLINE')),
    address  text not null check (length(address) between 1 and 300),
    dialect  text not null default '' check (length(dialect) <= 120),
    -- It is not on this machine, and that is meant.
    beyond   boolean not null default false,
    -- For a camera that does not say what its counts are.
    kelvin_per_count double precision not null default 0.01 check (kelvin_per_count > 0),
    kelvin_at_zero   double precision not null default 0,
    primary key (bench_id, role)
);

-- A capture that is being taken is none yet; after a crash it becomes one with what had come by then.
alter table capture add column taking boolean not null default false;

-- What the supply showed while it was being taken, as it came.
create table supply_row (
    id         bigint generated always as identity primary key,
    capture_id bigint not null references capture,
    t_s        double precision not null,
    volts      double precision not null check (volts between -200 and 200),
    amps       double precision not null check (amps between -200 and 200),
    output     boolean not null
);
create index supply_row_of_capture on supply_row (capture_id, id);
create trigger supply_row_append_only before update or delete on supply_row
    for each row execute function refuse_change();
