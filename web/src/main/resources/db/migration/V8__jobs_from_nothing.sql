-- A job may begin before anybody knows its rail, and with a board that is only of the device's sort.
alter table job alter column rail drop not null;
alter table job add column device text not null default '' check (length(device) <= 120);

-- How a board came about: what was guessed, what two files did not agree on, a line each.
alter table board add column notes text not null default '';

-- Boards of the library are offered for the next job; one that belongs to a single job is not.
alter table board add column library boolean not null default true;

-- The rail that the evidence found, where nobody has said one.
alter table job_state add column rail text;
