-- What actions did to fills and category maps is kept as fields, no longer as composed names (channels/fills.ts, channels/maps.ts).
UPDATE change c
SET delta = (
  SELECT jsonb_build_object('fill', jsonb_build_array(
    jsonb_build_object('attribute', substr(d.key, 6), 'market', '', 'category', '', 'fill', d.value -> 0),
    jsonb_build_object('attribute', substr(d.key, 6), 'market', '', 'category', '', 'fill', d.value -> 1)))
  FROM jsonb_each(c.delta) d WHERE d.key LIKE 'fill:%' LIMIT 1)
WHERE c.subject_kind = 'channel' AND EXISTS (SELECT 1 FROM jsonb_object_keys(c.delta) k WHERE k LIKE 'fill:%');
--> statement-breakpoint
UPDATE change c
SET delta = (
  SELECT jsonb_build_object('maps', jsonb_build_array(
    jsonb_agg(jsonb_build_object('category', substr(d.key, 5), 'market', '', 'target', d.value -> 0) ORDER BY d.key),
    jsonb_agg(jsonb_build_object('category', substr(d.key, 5), 'market', '', 'target', d.value -> 1) ORDER BY d.key)))
  FROM jsonb_each(c.delta) d WHERE d.key LIKE 'map:%')
WHERE c.subject_kind = 'channel' AND EXISTS (SELECT 1 FROM jsonb_object_keys(c.delta) k WHERE k LIKE 'map:%');
