-- The leads and the supply that a technician injects with, kept for the next job; absent means the usual ones.
create table injection_means (
    technician   text primary key check (technician <> ''),
    lead_ohms    double precision not null check (lead_ohms between 1e-4 and 10),
    lead_rated_a double precision not null check (lead_rated_a between 0.1 and 100),
    most_v       double precision not null check (most_v between 0.1 and 100),
    most_a       double precision not null check (most_a between 0.1 and 100)
);
