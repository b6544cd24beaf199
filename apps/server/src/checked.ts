import { explain } from '@gavrel/contract/schemas';
import type Joi from 'joi';
import { problem, ProblemError } from './problem';

/** What a body that cannot be read as JSON is told. */
export const notJson = () =>
  new ProblemError(problem(400, 'not-json', 'The body is not JSON', 'Send JSON with content-type application/json.'));

/** The text of a request as the schema says, on whatever thread. @throws ProblemError naming each wrong field. */
export function checkedJson<T>(text: string, schema: Joi.Schema): T {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw notJson();
  }
  const { error, value } = schema.validate(raw, { abortEarly: false, convert: false });
  if (error)
    throw new ProblemError(
      problem(422, 'body', 'The request is not right', 'Correct the fields named and send it again.', explain(error)),
    );
  return value as T;
}
