// Branded, so that a net never passes for a part.
export type NetId = string & { readonly brand: 'NetId' };
export type PartRef = string & { readonly brand: 'PartRef' };
export type StageId = string & { readonly brand: 'StageId' };
export type GoalId = string & { readonly brand: 'GoalId' };
export type SourceId = string & { readonly brand: 'SourceId' };
