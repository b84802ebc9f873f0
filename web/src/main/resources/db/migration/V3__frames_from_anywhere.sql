-- How a camera's files are to be read, remembered from the last time.
create table camera_profile (
    id              bigint generated always as identity primary key,
    name            text not null unique check (name <> ''),
    format          text not null,
    width           integer not null check (width between 8 and 4096),
    height          integer not null check (height between 8 and 4096),
    depth           text not null check (depth in ('EIGHT_BIT', 'SIXTEEN_BIT', 'FLOAT')),
    kelvin_per_step double precision not null check (kelvin_per_step > 0),
    kelvin_at_zero  double precision not null,
    turn            text not null check (turn in ('NONE', 'RIGHT', 'HALF', 'LEFT', 'MIRRORED')),
    frames_per_second double precision not null check (frames_per_second > 0),
    netd_k          double precision check (netd_k > 0),
    used_at         timestamptz not null default now(),
    used_by         text not null check (used_by <> '')
);
create index camera_profile_of_files on camera_profile (format, width, height, depth, used_at desc);

-- What the supply showed may be noted later than the job: the newest row is in force.
alter table injection drop constraint injection_pkey;
alter table injection add column id bigint generated always as identity primary key;
create index injection_of_job on injection (job_id, id desc);
