CREATE TABLE "quota" (
	"place_id" bigint PRIMARY KEY NOT NULL,
	"most" integer NOT NULL,
	"beyond" bigint
);
--> statement-breakpoint
ALTER TABLE "quota" ADD CONSTRAINT "quota_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE cascade ON UPDATE no action;