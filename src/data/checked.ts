import type Joi from 'joi';

/** What a schema says of a value that does not fit: in words, and where; `null` where it fits. Nothing is converted. */
export function misfitOf(schema: Joi.Schema, value: unknown): { words: string; where: string } | null {
  const { error } = schema.validate(value, { convert: false, allowUnknown: false, messages });
  return error ? { words: error.message, where: error.details[0]?.path.join('.') ?? '' } : null;
}

/** Where the package would name kinds of objects as the language does. */
const messages = {
  'alternatives.any': '{{#label}} is none of what it can be',
  'alternatives.match': '{{#label}} is none of what it can be',
  'alternatives.types': '{{#label}} is none of what it can be',
  'any.only': '{{#label}} is none of what it can be',
  'any.invalid': '{{#label}} is a name that cannot be an id',
  'string.pattern.base': '{{#label}} is not written as it must be',
  'number.unsafe': '{{#label}} is too large a number',
};
