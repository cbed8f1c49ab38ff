-- Prints may have each light, fog and openness as layers of their own.
alter table prints add column layers boolean not null default false;
