-- What hosts make for scenes (see core/scene/inputs.ts), by maker, its code and a key of all that it is made from; made
-- once, however many ask. `file` is the file that it was made from: it goes when that goes.
create table made (
  maker text not null,
  code int not null,
  key text not null,
  file text references blobs on delete cascade,
  blob text not null references blobs,
  created_at timestamptz not null default now(),
  primary key (maker, code, key)
);
insert into made (maker, code, key, file, blob) select 'sky', code, file, file, prepared from skies;
drop table skies;

-- A shot as it stood when the schema of its document changed, as that schema had it: from there older states are reached
-- by the patches of their own time.
create table snapshots (
  shot_id text not null references shots on delete cascade,
  schema_version int not null,
  revision bigint not null,
  document jsonb not null,
  created_at timestamptz not null default now(),
  primary key (shot_id, schema_version)
);
