INSERT INTO counter (project_id, prefix, next) SELECT project_id, 'RQ', next FROM counter WHERE prefix = 'requirement'
ON CONFLICT (project_id, prefix) DO UPDATE SET next = max(next, excluded.next);
--> statement-breakpoint
INSERT INTO counter (project_id, prefix, next) SELECT project_id, 'TC', next FROM counter WHERE prefix = 'case'
ON CONFLICT (project_id, prefix) DO UPDATE SET next = max(next, excluded.next);
--> statement-breakpoint
INSERT INTO counter (project_id, prefix, next) SELECT project_id, 'RT', next FROM counter WHERE prefix = 'routine'
ON CONFLICT (project_id, prefix) DO UPDATE SET next = max(next, excluded.next);
--> statement-breakpoint
INSERT INTO counter (project_id, prefix, next) SELECT project_id, 'PL', next FROM counter WHERE prefix = 'plan'
ON CONFLICT (project_id, prefix) DO UPDATE SET next = max(next, excluded.next);
--> statement-breakpoint
INSERT INTO counter (project_id, prefix, next) SELECT project_id, 'TS', next FROM counter WHERE prefix = 'suite'
ON CONFLICT (project_id, prefix) DO UPDATE SET next = max(next, excluded.next);
--> statement-breakpoint
INSERT INTO counter (project_id, prefix, next) SELECT project_id, 'RN', next FROM counter WHERE prefix = 'run'
ON CONFLICT (project_id, prefix) DO UPDATE SET next = max(next, excluded.next);
--> statement-breakpoint
INSERT INTO counter (project_id, prefix, next) SELECT project_id, 'DF', next FROM counter WHERE prefix = 'defect'
ON CONFLICT (project_id, prefix) DO UPDATE SET next = max(next, excluded.next);
--> statement-breakpoint
DELETE FROM counter WHERE prefix IN ('requirement', 'case', 'routine', 'plan', 'suite', 'run', 'defect');
