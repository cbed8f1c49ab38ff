-- Copies without the bend of their lens; `bend` in ten-thousandths, 0 as the file came.
alter table copies add column bend int not null default 0;
alter table copies drop constraint copies_pkey;
alter table copies add primary key (file, width, bend);
