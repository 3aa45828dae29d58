CREATE TABLE "join_doubt" (
	"product_id" bigint PRIMARY KEY NOT NULL,
	"parts" jsonb NOT NULL,
	"against" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "join_doubt" ADD CONSTRAINT "join_doubt_product_id_product_id_fk" FOREIGN KEY ("product_id") REFERENCES "public"."product"("id") ON DELETE cascade ON UPDATE no action;