import { parse, stringify } from 'yaml';

/** A sheet's text as JSON. Lost: comments, and the way lines were broken. The text must be readable. */
export const sheetAsJson = (text: string): string => `${JSON.stringify(parse(text), null, 2)}\n`;

/** A sheet's text as YAML: what is YAML already stays letter by letter. */
export const sheetAsYaml = (text: string): string =>
  text.trimStart().startsWith('{') ? stringify(parse(text), { lineWidth: 0 }) : text;
