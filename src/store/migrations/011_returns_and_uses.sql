-- What an edit did in words, with the names of its time. Older edits are told by their kind.
alter table edits add column told text;

-- Pictures of branches of the log that were left, as the frame stood there.
create table left_behind (
  shot_id text not null references shots on delete cascade,
  revision bigint not null,
  thumbnail text not null references blobs,
  primary key (shot_id, revision)
);

-- Files that a shot refers to: in its document, or anywhere in its log, for an undo brings back what an edit took away. The
-- log only grows, and so do these; they go with the shot.
create table file_uses (
  shot_id text not null references shots on delete cascade,
  hash text not null references blobs,
  primary key (shot_id, hash)
);
create index file_uses_hash on file_uses (hash);
insert into file_uses (shot_id, hash)
  select distinct f.shot_id, b.hash from (
    select id as shot_id, document::text as body from shots
    union all select shot_id, document::text from snapshots
    union all select shot_id, document::text from checkpoints
    union all select shot_id, edit::text || forward::text || inverse::text from edits
  ) f cross join lateral regexp_matches(f.body, '[0-9a-f]{64}', 'g') m join blobs b on b.hash = m[1];

-- The worker that puts a print together: one that wakes late has another's print before it no more.
alter table prints add column assemble_token uuid;

-- What units have added to a print since it began: rows of their own, so that a unit comes back without a lock on its print.
create table progress (
  print_id text not null,
  rays double precision not null,
  busy_ms double precision not null,
  blocks_done bigint not null,
  blocks_less bigint not null
);
create index progress_print on progress (print_id);
