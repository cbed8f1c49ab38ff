-- Sky pictures: the file as it came, and the table made from it by the code of a number.
create table skies (
  file text primary key references blobs on delete cascade,
  prepared text not null references blobs,
  code int not null
);
