-- What frames told belongs to the circuit they were taken on: when each was taken in. What came with the job has its hour.
alter table capture add column taken_at timestamptz;
update capture set taken_at = (select imported_at from job where job.id = capture.job_id);
alter table capture alter column taken_at set default now();
alter table capture alter column taken_at set not null;
