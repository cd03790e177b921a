import type { components } from "./schema";

type Schemas = components["schemas"];

export type Design = Schemas["Design"];
export type Bank = Schemas["Bank"];
export type Battery = Schemas["Battery"];
export type Inverter = Schemas["Inverter"];
export type Load = Schemas["Load"];
export type Edit = Schemas["Edit"];
export type Evaluation = Schemas["Evaluation"];
export type Figure = Schemas["Figure"];
export type Term = Schemas["Term"];
export type Judgement = Schemas["Judgement"];
export type Fix = Schemas["Fix"];
export type Jar = Schemas["Jar"];
export type Joint = Schemas["Joint"];
export type LoadRow = Schemas["LoadRow"];
export type Needed = Schemas["Needed"];
export type Choice = Schemas["Choice"];
export type Reading = Schemas["Reading"];
export type Reference = Schemas["Reference"];
export type Stored = Schemas["Stored"];
export type Summary = Schemas["Summary"];
export type ProblemDetails = Schemas["ProblemDetails"];
export type ProblemPlace = Schemas["ProblemPlace"];
export type Severity = Judgement["severity"];
