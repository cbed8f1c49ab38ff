-- A frame of a move has its neighbours taken in once they are done, too: a picture of its own beside its file, which stays what it is.
alter table frames add column steady text references blobs;
alter table frames add column steady_token uuid;
alter table frames add column steady_until timestamptz;
create index frames_steady on frames (steady);
alter table videos add column steady boolean not null default false;
