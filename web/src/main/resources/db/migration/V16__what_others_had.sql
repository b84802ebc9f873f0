-- Which kind of fault a kept job had, so that it counts for that kind; and whether a technician wants to hear of it.
alter table experience add column code text
    check (code in ('SHORT', 'OPEN', 'LEAKY', 'DAMAGED_PORT', 'NO_ENABLE', 'DEAD_CONTROLLER', 'PAIRED_PART',
                    'NOT_FITTED', 'BATTERY'));

alter table school drop constraint school_name_check;
alter table school add constraint school_name_check
    check (name in ('meter', 'lead', 'proof', 'injection', 'port', 'warmth', 'memory'));
