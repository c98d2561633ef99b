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

const lists = { '{each file}': 'files', '{each model}': 'models' } as const;

/**
 * The JSON of a manifest. A list that begins with “{each file}” or “{each model}” repeats what follows for each
 * of them; a text that is one field alone, and a number there, becomes a number. Throws where the template is no
 * JSON, or names a field that there is not.
 */
export function writeManifest(template: string, { whole, ...each }: ManifestInput): string {
  const fill = (value: unknown, fields: Fields): unknown => {
    if (typeof value === 'string') {
      const [unknown] = unknownFields(value, Object.keys(fields));
      if (unknown !== undefined)
        throw new Error(`The manifest’s template names “{${unknown}}”; there it can name ${Object.keys(fields).join(', ')}.`);
      const alone = /^\{([^{}]*)\}$/.exec(value)?.[1];
      return alone !== undefined && typeof fields[alone] === 'number' ? fields[alone] : filled(value, fields);
    }
    if (Array.isArray(value)) {
      const list = lists[value[0] as keyof typeof lists];
      if (!list) return value.map((v) => fill(v, fields));
      return each[list].flatMap((own) => value.slice(1).map((v) => fill(v, own)));
    }
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(Object.entries(value).map(([key, v]) => [key, fill(v, fields)]));
  };
  let parsed: unknown;
  try {
    parsed = JSON.parse(template);
  } catch (error) {
    throw new Error(`The manifest’s template is no JSON: ${(error as Error).message}`);
  }
  return `${JSON.stringify(fill(parsed, whole), null, 2)}\n`;
}

/** What is wrong with a template; empty where nothing is. */
export function templateProblem(template: string): string {
  const sample = (names: readonly string[]) => Object.fromEntries(names.map((n) => [n, '']));
  try {
    writeManifest(template, { whole: sample(wholeFields), files: [sample(fileFields)], models: [sample(modelFields)] });
    return '';
  } catch (error) {
    return (error as Error).message;
  }
}
