-- A product is written again and again: with room beside it, indexes of what has not changed stay as they are.
ALTER TABLE product SET (fillfactor = 85);
