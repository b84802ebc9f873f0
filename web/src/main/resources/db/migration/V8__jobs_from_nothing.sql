-- A job may begin before anybody knows its rail, and with a board that is only of the device's sort.
alter table job alter column rail drop not null;
alter table job add column device text not null default '' check (length(device) <= 120);

-- How a board came about: what was guessed, what two files did not agree on, a line each.
alter table board add column notes text not null default '';

-- A board that is edited becomes another version of the same family: jobs keep theirs, good readings are the family's, and
-- the newest is the one that the library offers. What belongs to a single job is in no library.
alter table board add column library boolean not null default true;
alter table board add column family bigint references board;
update board set family = id;
alter table board add column recorded_at timestamptz not null default now();
create index board_of_family on board (family);

-- The rail that the evidence found, where nobody has said one.
alter table job_state add column rail text;
