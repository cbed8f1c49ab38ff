-- Shots and their log. Nothing in the log is ever deleted; undo moves the head.
create table shots (
  id text primary key,
  title text not null,
  document jsonb not null,
  head bigint not null default 0,
  -- Raised by every edit and every move of the head; what a page holds against it tells whether it is stale.
  sequence bigint not null default 0,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now()
);

create table edits (
  shot_id text not null references shots on delete cascade,
  revision bigint not null,
  parent bigint not null,
  client_id uuid not null,
  schema_version int not null,
  edit jsonb not null,
  forward jsonb not null,
  inverse jsonb not null,
  created_at timestamptz not null default now(),
  primary key (shot_id, revision),
  unique (shot_id, client_id)
);
create index edits_parent on edits (shot_id, parent);

create table head_moves (
  id bigserial primary key,
  shot_id text not null references shots on delete cascade,
  client_id uuid not null,
  kind text not null,
  from_revision bigint not null,
  to_revision bigint not null,
  created_at timestamptz not null default now(),
  unique (shot_id, client_id)
);

create table checkpoints (
  id text primary key,
  shot_id text not null references shots on delete cascade,
  revision bigint not null,
  name text not null,
  document jsonb not null,
  thumbnail text,
  created_at timestamptz not null default now()
);

-- Binaries by their SHA-256, in rows of one MiB.
create table blobs (
  hash text primary key,
  size bigint not null,
  media_type text not null,
  created_at timestamptz not null default now()
);
create table blob_chunks (
  hash text not null references blobs on delete cascade,
  n int not null,
  data bytea not null,
  primary key (hash, n)
);
alter table blob_chunks alter column data set storage external;

create table prints (
  id text primary key,
  shot_id text not null references shots on delete cascade,
  revision bigint not null,
  document jsonb not null,
  width int not null,
  height int not null,
  samples int not null,
  seed int not null,
  state text not null default 'queued',
  message text,
  created_at timestamptz not null default now(),
  started_at timestamptz,
  finished_at timestamptz,
  assemble_until timestamptz,
  exr text references blobs,
  thumbnail text references blobs,
  pixels_sha256 text,
  rays double precision not null default 0,
  busy_ms double precision not null default 0
);
create index prints_waiting on prints (created_at) where state in ('queued', 'tracing');

-- A unit of work: the next blocks of samples of one tile. Its sums so far travel with it.
create table units (
  print_id text not null references prints on delete cascade,
  tile int not null,
  x int not null,
  y int not null,
  width int not null,
  height int not null,
  next_block int not null default 0,
  blocks int not null,
  lease_token uuid,
  lease_until timestamptz,
  sums bytea,
  firsts bytea,
  primary key (print_id, tile)
);
alter table units alter column sums set storage external;
alter table units alter column firsts set storage external;
