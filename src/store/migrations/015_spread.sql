-- Samples may be given out by noise. Of a frame that has not yet been decided, `look` says after how many samples it will be; its tiles then
-- tell their noise, and are told how many samples each of their pixels takes.
alter table prints add column spread text not null default 'even';
alter table frames add column look int;
alter table units add column noise bytea;
alter table units add column limits bytea;
