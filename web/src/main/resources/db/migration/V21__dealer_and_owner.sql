-- Who brought a device, and whose it is: not always the same. Neither is ever in what shops exchange.
alter table job add column dealer text not null default '' check (length(dealer) <= 120);
alter table job add column owner text not null default '' check (length(owner) <= 120);
create index job_of_dealer on job (dealer) where dealer <> '';
