-- Photographs of boards belong to a board's family: every version may lie on them.
create table board_photo (
    id          bigint generated always as identity primary key,
    family      bigint not null references board,
    side        text not null check (side in ('TOP', 'BOTTOM')),
    width       integer not null check (width between 8 and 20000),
    height      integer not null check (height between 8 and 20000),
    content     bytea not null check (octet_length(content) between 1 and 30000000),
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> '')
);
create index board_photo_of_family on board_photo (family, side, id desc);
alter table board_photo alter column content set storage external;
create trigger board_photo_append_only before update or delete on board_photo
    for each row execute function refuse_change();

-- The steps of a map that is not kept yet; undoing takes the last one away.
create table map_step (
    board_id    bigint not null references board,
    seq         integer not null check (seq > 0),
    document    text not null,
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> ''),
    primary key (board_id, seq)
);

-- How a photograph lies over a version of a board.
create table photo_laid (
    board_id bigint not null references board,
    side     text not null check (side in ('TOP', 'BOTTOM')),
    document text not null,
    primary key (board_id, side)
);
