-- A print may be of a part of its picture: left, top, width and height in pixels; null is the whole.
alter table prints add column part int[];
