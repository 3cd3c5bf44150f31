package curriculum

// What tests from outside hold pages against.
var (
	ReadDetails                        = readDetails
	RequirementValues, ReadRequirement = requirementValues, readRequirement
	TechniqueValues, ReadTechnique     = techniqueValues, readTechnique
	Spot                               = spot
	StanceValues, ReadStance           = stanceValues, readStance
)
