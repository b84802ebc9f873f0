-- What good devices drew at their ports, amperes: learnt from proven jobs, once a job, port and phase.
create table good_draw (
    id          bigint generated always as identity primary key,
    board_id    bigint not null references board,
    job_id      bigint not null references job,
    port        text not null check (length(port) between 1 and 80),
    phase       text not null check (phase in ('STANDBY', 'RUN', 'CHARGE')),
    amps        double precision not null check (amps between 0 and 1000),
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> ''),
    unique (job_id, port, phase)
);
create index good_draw_of_board on good_draw (board_id);
create trigger good_draw_append_only before update or delete on good_draw
    for each row execute function refuse_change();

-- The version that a version was made from: where undo goes.
alter table board add column made_from bigint references board;
alter table board add constraint made_from_an_earlier_one check (made_from < id);

-- The files that a board was read from, kept while they do not say the same; and what was decided for a version.
create table board_file (
    board_id bigint not null references board,
    no       integer not null check (no > 0),
    name     text not null check (length(name) between 1 and 300),
    content  bytea not null check (octet_length(content) <= 200000000),
    primary key (board_id, no)
);
create trigger board_file_append_only before update or delete on board_file
    for each row execute function refuse_change();
alter table board add column choices text not null default '';

-- How a good board was read: which lead rested on ground, the point under the probe, the meter.
alter table good_reading add column red_on_ground boolean not null default true;
alter table good_reading add column point text check (length(point) between 1 and 80);
alter table good_reading add column meter text check (length(meter) between 1 and 80);
