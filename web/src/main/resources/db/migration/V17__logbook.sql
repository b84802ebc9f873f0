-- How each job went, worked out from its evidence whenever that changes; can always be worked out again.
create table outcome (
    job_id        bigint primary key references job on delete cascade,
    proven        boolean not null,
    ref           text check (length(ref) between 1 and 120),
    named_ref     text check (length(named_ref) between 1 and 120),
    named_p       double precision check (named_p between 0 and 1),
    heated        boolean not null,
    innocent      integer not null check (innocent >= 0),
    measuring_s   integer not null check (measuring_s >= 0),
    injecting_s   integer not null check (injecting_s >= 0),
    reworking_s   integer not null check (reworking_s >= 0),
    proving_s     integer not null check (proving_s >= 0),
    technician    text not null,
    words         text not null,
    check (proven = (ref is not null))
);
create index outcome_words on outcome using gin (words gin_trgm_ops);

-- What led on the page when an act was decided: a part that is named before heat.
alter table decision add column lead_ref text;
alter table decision add column lead_probability double precision check (lead_probability between 0 and 1);
create index decision_of_entry on decision (job_id, evidence_seq, id desc);

-- What a shop calls its jobs, and a device that came back.
create table job_tag (
    job_id bigint not null references job on delete cascade,
    tag    text not null check (tag ~ '^[[:alnum:]][[:alnum:] ._-]{0,39}$'),
    primary key (job_id, tag)
);
create index job_tag_by_tag on job_tag (tag, job_id);
alter table job add column back_from bigint references job;
create index job_back_from on job (back_from) where back_from is not null;
create index job_of_board on job (board_id);
