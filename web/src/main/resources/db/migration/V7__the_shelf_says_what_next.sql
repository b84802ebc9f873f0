-- The shelf's line says what the sheet says: the next step, and who named the part that leads.
alter table job_state add column next_step text;
alter table job_state add column lead_by text check (lead_by in ('frames', 'meter', 'proof'));
update job_state set lead_by = 'frames' where lead_ref is not null;
