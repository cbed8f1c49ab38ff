-- Scaled copies of pictures, in sRGB and upright; `width` is the most that was asked for.
create table copies (
  file text not null references blobs on delete cascade,
  width int not null,
  copy text not null references blobs,
  primary key (file, width)
);
