import { byId } from '../../ground/byId';
import { brokenAt } from '../../ground/bytes/errors';
import { templateLimits } from '../../ground/limits';
import { filled, unknownFields, type Fields } from './template';

/** What a manifest may say of each file, of each model, and of the whole. */
export const fileFields = ['path', 'name', 'bytes', 'sha256'] as const;
export const modelFields = ['name', 'faces'] as const;
export const wholeFields = ['kit', 'version', 'description', 'files', 'models', 'bytes'] as const;

export interface ManifestInput {
  whole: Fields;
  files: readonly Fields[];
  models: readonly Fields[];
}

const lists = new Map<unknown, 'files' | 'models'>([
  ['{each file}', 'files'],
  ['{each model}', 'models'],
]);

/**
 * The JSON of a manifest. A list that begins with “{each file}” or “{each model}” repeats what follows for each
 * of them; a text that is one field alone, and a number there, becomes a number. Throws where the template is no
 * JSON, names a field that there is not, or nests or says more than `templateLimits`.
 */
export function writeManifest(template: string, { whole, ...each }: ManifestInput): string {
  let [steps, length] = [0, 0];
  const count = (text: string) => {
    length += text.length;
    if (++steps > templateLimits.steps || length > templateLimits.length)
      throw new Error('The manifest’s template repeats too much: lists in lists multiply. Take one of them out.');
    return text;
  };
  const fill = (value: unknown, fields: Fields, depth: number): unknown => {
    if (depth > templateLimits.depth) throw new Error(`The manifest’s template is nested more than ${templateLimits.depth} deep.`);
    if (typeof value === 'string') {
      const [unknown] = unknownFields(value, Object.keys(fields));
      if (unknown !== undefined)
        throw new Error(`The manifest’s template names “{${unknown}}”; there it can name ${Object.keys(fields).join(', ')}.`);
      const alone = /^\{([^{}]*)\}$/.exec(value)?.[1];
      if (alone === undefined || typeof fields[alone] !== 'number') return count(filled(value, fields));
      count('');
      return fields[alone];
    }
    count('');
    if (Array.isArray(value)) {
      const list = lists.get(value[0]);
      if (!list) return value.map((v) => fill(v, fields, depth + 1));
      return each[list].flatMap((own) => value.slice(1).map((v) => fill(v, own, depth + 1)));
    }
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([key, v]) => [count(key), fill(v, fields, depth + 1)]));
  };
  return `${JSON.stringify(fill(parsed(template), whole, 0), null, 2)}\n`;
}

/** Throws in words of ours: each runtime has its own. */
function parsed(template: string): unknown {
  try {
    return JSON.parse(template);
  } catch {
    const line = template.slice(0, brokenAt(template)).split('\n').length;
    throw new Error(`The manifest’s template is no JSON: at line ${line} a bracket, comma or quotation mark is missing or out of place.`);
  }
}

/** What is wrong with a template; empty where nothing is. */
export function templateProblem(template: string): string {
  const sample = (names: readonly string[]) => byId(names.map((n) => [n, ''] as const));
  try {
    writeManifest(template, { whole: sample(wholeFields), files: [sample(fileFields)], models: [sample(modelFields)] });
    return '';
  } catch (error) {
    return (error as Error).message;
  }
}
