-- Prints may stop at a noise level, in percent, and may be paused.
alter table prints add column noise_percent real;
