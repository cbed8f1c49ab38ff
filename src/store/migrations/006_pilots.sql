-- A pilot is traced before a print to tell its time. The one who asked waits for it; it is forgotten soon.
create table pilots (
  id text primary key,
  document jsonb not null,
  width int not null,
  height int not null,
  part int[],
  created_at timestamptz not null default now(),
  claimed_at timestamptz,
  result jsonb
);
