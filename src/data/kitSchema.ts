import Joi from 'joi';
import { kitShape } from '@/core/kit/kitShape';
import type { Shape } from '@/core/kit/shape';

/** The schema that lets in what has a shape, and nothing else. */
function schemaOf(shape: Shape): Joi.Schema {
  switch (shape.is) {
    case 'text':
      return (shape.least ? Joi.string().min(shape.least) : Joi.string().allow('')).max(shape.most);
    case 'sign': {
      const like = Joi.string().pattern(shape.like);
      return (shape.not.length ? like.invalid(...shape.not) : like).allow(...shape.or);
    }
    case 'number': {
      const from = shape.above ? Joi.number().greater(shape.least) : Joi.number().min(shape.least);
      const own = shape.below ? from.less(shape.most) : from.max(shape.most);
      // What is not counted may be any number that the language has.
      return shape.whole ? own.integer() : own.unsafe();
    }
    case 'one':
      return Joi.valid(...shape.of);
    case 'list': {
      const entries = Joi.array().items(schemaOf(shape.of)).min(shape.least);
      return shape.most === Infinity ? entries : entries.max(shape.most);
    }
    case 'fields':
      return Joi.object(
        Object.fromEntries(
          Object.entries(shape.fields).map(([name, of]) => [name, shape.maybe.has(name) ? schemaOf(of) : schemaOf(of).required()]),
        ),
      );
    case 'table': {
      const keys = Joi.string().pattern(shape.like);
      return Joi.object()
        .pattern(shape.not.length ? keys.invalid(...shape.not) : keys, schemaOf(shape.of))
        .max(shape.most);
    }
    case 'either':
      return Joi.alternatives(...shape.of.map(schemaOf));
  }
}

/** What a kit's document may hold; what one entry has to do with another is checked besides. */
export const kitSchema = schemaOf(kitShape);

/** A content address for the path of each entry. */
export const sumsSchema = Joi.object()
  .pattern(/^.{1,200}$/, Joi.string().pattern(/^[0-9a-f]{32}$/))
  .max(40_000)
  .required();
