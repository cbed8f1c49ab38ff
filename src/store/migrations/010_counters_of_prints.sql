-- Blocks of samples times pixels of a print, and how many of them are traced: kept with the print, so that its progress is
-- told without a look at each of its tiles.
alter table prints add column blocks bigint not null default 0;
alter table prints add column blocks_done bigint not null default 0;
update prints p set blocks = u.blocks, blocks_done = u.done
  from (select print_id, sum(blocks::bigint * width * height) as blocks, sum(next_block::bigint * width * height) as done
        from units group by print_id) u
  where u.print_id = p.id;
create index units_open on units (print_id, next_block, tile) where next_block < blocks;
create index units_leased on units (print_id) where lease_token is not null;
