ALTER TABLE "join_decision" DROP CONSTRAINT "join_decision_a_b_pk";--> statement-breakpoint
ALTER TABLE "join_decision" ADD CONSTRAINT "join_decision_a_b_action_id_pk" PRIMARY KEY("a","b","action_id");--> statement-breakpoint
CREATE INDEX "join_decision_action" ON "join_decision" USING btree ("action_id");