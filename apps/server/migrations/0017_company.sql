CREATE TABLE "company" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"name" text NOT NULL,
	"languages" text[] NOT NULL,
	"currencies" text[] NOT NULL,
	"time_zone" text NOT NULL,
	CONSTRAINT "company_is_one" CHECK ("company"."id" = 1)
);
--> statement-breakpoint
ALTER TABLE "supplier" ALTER COLUMN "language" DROP DEFAULT;