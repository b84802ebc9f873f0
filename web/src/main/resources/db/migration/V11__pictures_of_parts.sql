-- A picture under the microscope is pinned to the part that it shows; the newest pin is in force.
create table photo_pin (
    id          bigint generated always as identity primary key,
    photo_id    bigint not null references photo,
    ref         text not null check (length(ref) between 1 and 80),
    recorded_at timestamptz not null default now(),
    recorded_by text not null check (recorded_by <> '')
);
create index photo_pin_of_photo on photo_pin (photo_id, id desc);
create trigger photo_pin_append_only before update or delete on photo_pin
    for each row execute function refuse_change();
