-- Proven cases of other shops, taken in from a file with the weight that this shop gives them.
create table experience_source (
    id       bigint generated always as identity primary key,
    name     text not null unique check (length(name) between 1 and 120),
    weight   double precision not null check (weight between 0 and 1),
    taken_by text not null check (length(taken_by) between 1 and 120),
    taken_at timestamptz not null default now()
);
create table experience_of_others (
    id        bigint generated always as identity primary key,
    source_id bigint not null references experience_source on delete cascade,
    board     text not null check (length(board) between 1 and 400),
    revision  text not null check (length(revision) <= 400),
    rail      text check (length(rail) between 1 and 200),
    complaint text not null check (length(complaint) <= 2000),
    code      text check (code in ('SHORT', 'OPEN', 'LEAKY', 'DAMAGED_PORT', 'NO_ENABLE', 'DEAD_CONTROLLER', 'PAIRED_PART',
                                   'NOT_FITTED', 'BATTERY')),
    ref       text not null check (length(ref) between 1 and 120),
    ohms      double precision check (ohms >= 0),
    draw_a    double precision check (draw_a >= 0)
);
create index experience_of_others_by_board on experience_of_others (board, revision, id desc);
