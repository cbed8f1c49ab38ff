-- A print has one frame, the still, or the frames of a move. Each is opened when its turn comes (its units are made then),
-- put together by itself, and keeps its own file.
create table frames (
  print_id text not null references prints on delete cascade,
  frame int not null,
  turn int not null,
  state text not null default 'waiting',
  assemble_token uuid,
  assemble_until timestamptz,
  exr text references blobs,
  thumbnail text references blobs,
  pixels_sha256 text,
  primary key (print_id, frame)
);
create index frames_turn on frames (print_id, turn) where state = 'waiting';
create index frames_open on frames (print_id) where state in ('tracing', 'assembling');
create index frames_exr on frames (exr);
create index frames_thumbnail on frames (thumbnail);

alter table prints add column sequence boolean not null default false;
-- The moment of its move that a still shows; null is the document as it is.
alter table prints add column time_s double precision;
-- Frames have the same noise, for those who take it out by themselves.
alter table prints add column steady_noise boolean not null default false;

-- Units count samples from now on, for blocks of them are not all as long: they end at 4, 8, 16 and then each 16.
drop index units_open;
alter table units rename column next_block to done;
alter table units rename column blocks to samples;
alter table units add column frame int not null default 0;
update units set done = done * 16, samples = samples * 16;
alter table units drop constraint units_pkey;
alter table units add primary key (print_id, frame, tile);
create index units_open on units (print_id, frame, done, tile) where done < samples;

alter table prints rename column blocks to work;
alter table prints rename column blocks_done to work_done;
update prints set work = work * 16, work_done = work_done * 16;
alter table progress rename column blocks_done to work_done;
alter table progress rename column blocks_less to work_less;
update progress set work_done = work_done * 16, work_less = work_less * 16;

insert into frames (print_id, frame, turn, state, exr, thumbnail, pixels_sha256)
  select id, 0, 0, case when state = 'done' then 'done' when state in ('cancelled', 'failed') then 'waiting' else 'tracing' end,
    exr, thumbnail, pixels_sha256 from prints;
alter table prints drop column assemble_token;
alter table prints drop column assemble_until;
alter table prints drop column exr;
alter table prints drop column pixels_sha256;
alter table prints drop column thumbnail;

-- Videos made of a print's frames, with a finish; made again when that is another.
create table videos (
  id text primary key,
  print_id text not null references prints on delete cascade,
  kind text not null,
  -- The shot whose finish it has.
  document jsonb not null,
  clean boolean not null default true,
  state text not null default 'waiting',
  done int not null default 0,
  token uuid,
  lease_until timestamptz,
  blob text references blobs,
  message text,
  created_at timestamptz not null default now(),
  finished_at timestamptz
);
create index videos_waiting on videos (created_at) where state in ('waiting', 'making');
create index videos_print on videos (print_id);
create index videos_blob on videos (blob);
