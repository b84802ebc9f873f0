-- What the shop has of parts: a plain list, as a table goes in and comes out.
create table stock_line (
    id          bigint generated always as identity primary key,
    kind        text not null check (kind in ('CAPACITOR', 'RESISTOR', 'INDUCTOR', 'FERRITE', 'DIODE', 'TVS', 'TRANSISTOR',
                                              'MOSFET', 'FUSE', 'IC', 'CONNECTOR', 'SHIELD', 'CRYSTAL', 'SWITCH', 'OTHER')),
    value       text not null check (length(value) <= 120),
    package     text not null check (length(package) <= 120),
    volts_rated double precision check (volts_rated > 0),
    count       integer not null check (count >= 0),
    least       integer not null check (least >= 0),
    place       text not null check (length(place) <= 120)
);
create index stock_of_kind on stock_line (kind);
