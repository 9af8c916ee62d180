CREATE UNIQUE INDEX link_once ON link (requirement_id, case_id, coalesce(step_id, 0)) WHERE until_at IS NULL;
--> statement-breakpoint
CREATE VIRTUAL TABLE search USING fts5(title, body, project_id UNINDEXED, tokenize = 'trigram');
--> statement-breakpoint
CREATE TRIGGER search_requirement_added AFTER INSERT ON requirement BEGIN INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 1, new.title, new.text, new.project_id); END;
--> statement-breakpoint
CREATE TRIGGER search_requirement_changed AFTER UPDATE OF title, text ON requirement WHEN old.title <> new.title OR old.text <> new.text BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 1; INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 1, new.title, new.text, new.project_id); END;
--> statement-breakpoint
CREATE TRIGGER search_requirement_purged AFTER DELETE ON requirement BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 1; END;
--> statement-breakpoint
CREATE TRIGGER search_test_case_added AFTER INSERT ON test_case BEGIN INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 2, new.title, new.objective, new.project_id); END;
--> statement-breakpoint
CREATE TRIGGER search_test_case_changed AFTER UPDATE OF title, objective ON test_case WHEN old.title <> new.title OR old.objective <> new.objective BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 2; INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 2, new.title, new.objective, new.project_id); END;
--> statement-breakpoint
CREATE TRIGGER search_test_case_purged AFTER DELETE ON test_case BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 2; END;
--> statement-breakpoint
CREATE TRIGGER search_defect_added AFTER INSERT ON defect BEGIN INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 3, new.title, new.text, new.project_id); END;
--> statement-breakpoint
CREATE TRIGGER search_defect_changed AFTER UPDATE OF title, text ON defect WHEN old.title <> new.title OR old.text <> new.text BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 3; INSERT INTO search(rowid, title, body, project_id) VALUES (new.id * 4 + 3, new.title, new.text, new.project_id); END;
--> statement-breakpoint
CREATE TRIGGER search_defect_purged AFTER DELETE ON defect BEGIN DELETE FROM search WHERE rowid = old.id * 4 + 3; END;
