-- +goose Up

-- A sign-off says of which line of the sheet it is and at what demand; entries from before say
-- neither and count for every line of their technique and role.
ALTER TABLE signoff_event ADD COLUMN line TEXT NOT NULL DEFAULT '';
ALTER TABLE signoff_event ADD COLUMN demand TEXT CHECK (demand IS NULL OR json_valid(demand));
DROP VIEW signoff;
CREATE VIEW signoff AS
SELECT * FROM signoff_event e
WHERE kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM signoff_event n WHERE n.supersedes = e.id);

-- The lines a candidate passed at a grading that was announced, worked out from its marks: seen,
-- and not failing for the panel; where no mark fails, the grading was passed.
CREATE VIEW passed_line AS
SELECT c.id AS candidate_id, c.enrolment_id, l.id AS line_id, l.line ->> '$.technique' AS technique_id, l.line ->> '$.role' AS role, g.on_date,
  json_patch('{}', json_object('entry', l.line -> '$.entry', 'setting', l.line -> '$.setting', 'covers_settings', l.line -> '$.covers_settings', 'quantity', l.line -> '$.quantity',
    'slow', l.line -> '$.slow', 'non_stop', l.line -> '$.non_stop', 'support_allowed', l.line -> '$.supported', 'level', l.line -> '$.level', 'stage', l.line -> '$.stage',
    'checkpoints', CASE WHEN l.line ->> '$.some_checkpoints' THEN l.line -> '$.checkpoints' END)) AS demand
FROM candidate c JOIN announcement a ON a.candidate_id = c.id JOIN decision d ON d.candidate_id = c.id JOIN grading g ON g.id = c.grading_id
JOIN test_line l ON l.sheet_id = c.sheet_id JOIN test_item i ON i.id = l.item_id
WHERE c.withdrawn_at IS NULL AND CASE WHEN g.policy ->> '$.scale.failing' IS NULL
  THEN d.outcome LIKE 'promote%' OR d.outcome = 'refer_for_double_promotion'
  ELSE i.carried > CAST(round(1000000000 * (g.policy ->> '$.scale.failing')) AS INTEGER)
    OR 2 * (SELECT count(*) FROM mark m WHERE m.candidate_id = c.id AND m.item_id = i.id AND m.kind = 'mark' AND m.value <= CAST(round(1000000000 * (g.policy ->> '$.scale.failing')) AS INTEGER))
      <= (SELECT count(*) FROM mark m WHERE m.candidate_id = c.id AND m.item_id = i.id AND m.kind = 'mark') END
  AND (i.carried IS NOT NULL OR EXISTS (SELECT 1 FROM mark m WHERE m.candidate_id = c.id AND m.item_id = i.id AND m.kind = 'mark'));

CREATE TABLE graded_line (
  candidate_id TEXT NOT NULL REFERENCES candidate (id),
  enrolment_id TEXT NOT NULL REFERENCES enrolment (id),
  line_id      TEXT NOT NULL REFERENCES test_line (id),
  technique_id TEXT NOT NULL,
  role         TEXT NOT NULL,
  on_date      TEXT NOT NULL,
  demand       TEXT NOT NULL CHECK (json_valid(demand)),
  PRIMARY KEY (candidate_id, line_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX graded_line_enrolment ON graded_line (enrolment_id);
INSERT INTO graded_line SELECT candidate_id, enrolment_id, line_id, technique_id, role, on_date, demand FROM passed_line;

-- What was shown before this climb: signed off on the way to rungs that are reached, and passed at
-- gradings. The rung is '' where the demand says all there is to know.
CREATE VIEW shown_before AS
SELECT x.enrolment_id, x.rung_id, x.technique_id, x.role, x.stage, x.side, x.on_date, coalesce(x.demand, '') AS demand
FROM signoff x JOIN enrolment e ON e.id = x.enrolment_id JOIN rung here ON here.id = e.rung_id JOIN rung g ON g.id = x.rung_id AND g.position <= here.position WHERE x.kind = 'shown'
UNION ALL
SELECT enrolment_id, '', technique_id, role, 0, '', on_date, demand FROM graded_line;

-- The entry by hand that stands: what the rungs up to there test is presumed on entry.
CREATE VIEW entered AS
SELECT k.enrolment_id, k.rung_id, k.on_date FROM rank_entry k WHERE k.kind IN ('start', 'correction') AND k.candidate_id IS NULL
  AND NOT EXISTS (SELECT 1 FROM rank_entry n WHERE n.enrolment_id = k.enrolment_id AND n.kind IN ('start', 'correction') AND n.candidate_id IS NULL AND n.rowid > k.rowid);

ALTER TABLE climb_summary ADD COLUMN seen TEXT NOT NULL DEFAULT '';
ALTER TABLE climb_summary ADD COLUMN presumed TEXT NOT NULL DEFAULT '';
UPDATE climb_summary SET
  signed = coalesce((SELECT group_concat(concat_ws(char(9), x.rung_id, x.technique_id, x.role, x.stage, x.side, x.on_date, ''), char(10) ORDER BY x.on_date, x.at)
    FROM signoff x JOIN enrolment e ON e.id = x.enrolment_id JOIN rung here ON here.id = e.rung_id JOIN rung g ON g.id = x.rung_id AND g.position > here.position
    WHERE x.enrolment_id = climb_summary.enrolment_id AND x.kind = 'shown'), ''),
  seen = coalesce((SELECT group_concat(concat_ws(char(9), rung_id, technique_id, role, stage, side, on_date, demand), char(10) ORDER BY on_date)
    FROM (SELECT rung_id, technique_id, role, stage, side, max(on_date) AS on_date, demand FROM shown_before WHERE enrolment_id = climb_summary.enrolment_id GROUP BY 1, 2, 3, 4, 5, 7)), ''),
  presumed = coalesce((SELECT concat_ws(char(9), rung_id, on_date) FROM entered WHERE enrolment_id = climb_summary.enrolment_id), '');

-- Whose answer is another one now is told to the owner once.
UPDATE program SET details = json_set(details, '$.signed_off_anew', json('true')) WHERE EXISTS (SELECT 1 FROM enrolment e WHERE e.program_id = program.id AND e.ended_on IS NULL);
