-- Small frames of a shot's move as they were traced last, so that it plays at once when it is opened again. `sign` tells what
-- they were traced from: those of an older state are traced again.
create table small_frames (
  shot_id text not null references shots on delete cascade,
  frame int not null,
  sign text not null,
  data bytea not null,
  primary key (shot_id, frame)
);
alter table small_frames alter column data set storage external;
