WITH kind (name, prefix) AS (VALUES ('requirement', 'RQ'), ('case', 'TC'), ('routine', 'RT'), ('plan', 'PL'), ('suite', 'TS'), ('run', 'RN'), ('defect', 'DF'))
INSERT INTO counter (project_id, prefix, next)
SELECT counter.project_id, kind.prefix, counter.next FROM counter JOIN kind ON kind.name = counter.prefix WHERE true
ON CONFLICT (project_id, prefix) DO UPDATE SET next = max(next, excluded.next);
--> statement-breakpoint
DELETE FROM counter WHERE prefix IN ('requirement', 'case', 'routine', 'plan', 'suite', 'run', 'defect');
