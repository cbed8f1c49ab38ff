-- Pixels that are traced, in those of the frame: what the lens bends in from beyond it and the overscan are among them, so they
-- may begin below 0. Null, of older prints, is the part or the frame.
alter table prints add column area int[];
