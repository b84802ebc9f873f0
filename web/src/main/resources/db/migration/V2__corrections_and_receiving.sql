-- A correction is a row of its own that takes the place of the one it supersedes; a withdrawal is one without content.
alter table evidence disable trigger evidence_append_only;
alter table evidence add column place integer;
update evidence set place = seq;
alter table evidence alter column place set not null;
alter table evidence enable trigger evidence_append_only;

alter table evidence drop constraint evidence_kind_check;
alter table evidence add constraint evidence_kind_check
    check (kind in ('power', 'look', 'read', 'inject', 'warm', 'change', 'run', 'withdrawn'));
alter table evidence add constraint evidence_withdrawal_supersedes
    check (kind <> 'withdrawn' or supersedes is not null);
-- Two technicians cannot correct the same row: the second is told.
create unique index evidence_superseded_once on evidence (supersedes) where supersedes is not null;

-- How the device came in; the newest row is in force.
create table intake (
    id           bigint generated always as identity primary key,
    job_id       bigint not null references job,
    account      text not null check (length(account) <= 4000),
    earlier_work text not null check (length(earlier_work) <= 4000),
    condition    text not null check (length(condition) <= 4000),
    hazards      text[] not null check (hazards <@ array['swollen-cell', 'liquid', 'hot-cell', 'only-copy']),
    recorded_at  timestamptz not null default now(),
    recorded_by  text not null check (recorded_by <> '')
);
create index intake_of_job on intake (job_id, id desc);

-- What came with the device, and what was seen to be back in it before it is handed back.
create table fit_item (
    job_id      bigint not null references job,
    name        text not null check (name <> '' and length(name) <= 80),
    came        boolean not null,
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> ''),
    primary key (job_id, name)
);
create table fit_check (
    id         bigint generated always as identity primary key,
    job_id     bigint not null,
    name       text not null,
    checked_at timestamptz not null default now(),
    checked_by text not null check (checked_by <> ''),
    foreign key (job_id, name) references fit_item
);
create index fit_check_of_job on fit_check (job_id);

create table photo (
    id          bigint generated always as identity primary key,
    job_id      bigint not null references job,
    caption     text not null check (length(caption) <= 200),
    media_type  text not null check (media_type in ('image/jpeg', 'image/png')),
    content     bytea not null check (octet_length(content) between 1 and 20000000),
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> '')
);
create index photo_of_job on photo (job_id, id);
alter table photo alter column content set storage external;

create trigger intake_append_only before update or delete on intake
    for each row execute function refuse_change();
create trigger fit_item_append_only before update or delete on fit_item
    for each row execute function refuse_change();
create trigger fit_check_append_only before update or delete on fit_check
    for each row execute function refuse_change();
create trigger photo_append_only before update or delete on photo
    for each row execute function refuse_change();

-- What good boards of a kind read, unpowered, to ground; volts in diode mode, else ohms.
create table good_reading (
    id          bigint generated always as identity primary key,
    board_id    bigint not null references board,
    net         text not null check (net <> ''),
    mode        text not null check (mode in ('DIODE', 'OHMS')),
    value       double precision not null check (value >= 0),
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> '')
);
create index good_reading_of_board on good_reading (board_id);
create trigger good_reading_append_only before update or delete on good_reading
    for each row execute function refuse_change();

-- A technician's schools; absent means the default.
create table school (
    technician text not null check (technician <> ''),
    name       text not null check (name in ('meter', 'lead', 'proof', 'injection', 'port', 'warmth')),
    choice     text not null check (choice <> ''),
    primary key (technician, name)
);
