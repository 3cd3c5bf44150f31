-- +goose Up

-- A section carries the kind of what is new in it, whatever it is called: the one its name had so
-- far; '' where the name says none.
ALTER TABLE section ADD COLUMN kind TEXT NOT NULL DEFAULT '';
UPDATE section SET kind = CASE replace(replace(name_key, '-', ' '), 'defense', 'defence')
	WHEN 'courtesy' THEN 'courtesy' WHEN 'stances' THEN 'stance' WHEN 'strikes' THEN 'strike' WHEN 'punches' THEN 'strike' WHEN 'kicks' THEN 'kick'
	WHEN 'blocks' THEN 'block' WHEN 'evasions' THEN 'evasion' WHEN 'combinations' THEN 'combination' WHEN 'forms' THEN 'form' WHEN 'patterns' THEN 'form'
	WHEN 'self defence' THEN 'self_defence' WHEN 'locks' THEN 'lock' WHEN 'throws' THEN 'throw' WHEN 'breakfalls' THEN 'breakfall' WHEN 'partner sets' THEN 'partner_set'
	WHEN 'sparring' THEN 'sparring' WHEN 'fitness' THEN 'fitness' WHEN 'knowledge' THEN 'knowledge' WHEN 'theory' THEN 'knowledge' WHEN 'character' THEN 'character' ELSE '' END;
