ALTER TABLE "product_text" ADD COLUMN "sought" json DEFAULT '{}'::json NOT NULL;--> statement-breakpoint
-- As they were searched until now; core's own folding comes with a text's next change.
UPDATE "product_text" p SET sought = coalesce((
  SELECT json_object_agg(k.key, (
    SELECT json_object_agg(l.key,
      trim(regexp_replace(lower(regexp_replace(normalize(regexp_replace(l.value, '<[^>]*>', ' ', 'g'), NFKD), '[\u0300-\u036f]', '', 'g')), '\s+', ' ', 'g')))
    FROM json_each_text(k.value) l))
  FROM json_each(p.texts) k JOIN "attribute" a ON a.key = k.key AND a.type = 'richText'), '{}'::json);
