import { gaitSpecSchema } from '../../gait/schema';
import type { GaitSpec } from '../../gait/spec';
import { bodySpecSchema, type BodySpec } from '../../body/spec';
import { groundSpecSchema, type GroundSpec } from '../../ground/spec';
import { planSpecSchema, type PlanSpec } from '../../steps/plan';
import { contactsFileSchema, type ContactsFile } from '../contacts/told';
import { FormatFault } from '../limits';
import type { z } from 'zod';

const TYPES: Readonly<Record<string, string>> = {
  number: 'a number',
  int: 'a whole number',
  string: 'text',
  boolean: 'true or false',
  object: 'an object',
  array: 'a list',
  tuple: 'a list',
  record: 'an object',
};

/** Words one issue: path, what is wrong, the allowed range where there is one. */
export function describeIssue(issue: z.core.$ZodIssue): string {
  const path = issue.path.map(String).join('.') || '(whole)';
  return `${path}: ${wordsOf(issue)}`;
}

function wordsOf(issue: z.core.$ZodIssue): string {
  const counted = (n: number | bigint) => {
    const what = 'origin' in issue && issue.origin === 'string' ? 'characters' : 'origin' in issue && issue.origin === 'array' ? 'entries' : null;
    return what
      ? `must have ${issue.code === 'too_small' ? 'at least' : 'at most'} ${n} ${what}`
      : `must be ${issue.code === 'too_small' ? 'at least' : 'at most'} ${n}`;
  };
  switch (issue.code) {
    case 'too_small':
      return counted(issue.minimum);
    case 'too_big':
      return counted(issue.maximum);
    case 'invalid_type':
      return `must be ${TYPES[issue.expected] ?? issue.expected}`;
    case 'invalid_value':
      return `must be ${issue.values.map((v) => JSON.stringify(v)).join(' or ')}`;
    case 'unrecognized_keys':
      return `holds what is not known: ${issue.keys.map((k) => `"${k.slice(0, 40)}"`).join(', ')}`;
    case 'custom':
      return issue.message;
    default:
      return 'does not fit what is read here';
  }
}

/** What JSON text holds; a fault says where it stops being JSON. */
function parseJson(text: string, file: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch (error) {
    const position = /position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1];
    const line = position === undefined ? text.split('\n').length : text.slice(0, Number(position)).split('\n').length;
    throw new FormatFault(`not JSON: it is not well-formed at line ${line}`, file);
  }
}

function parse<T>(schema: z.ZodType<T>, text: string, file: string): T {
  const json = parseJson(text, file);
  const result = schema.safeParse(json);
  if (!result.success) throw new FormatFault(result.error.issues.map(describeIssue).join(`\n${file}: `), file);
  return result.data;
}

/** Reads a gait file; throws FormatFault with one line a fault. */
export const decodeGait = (text: string, file: string): GaitSpec => parse(gaitSpecSchema, text, file);
export const decodeBody = (text: string, file: string): BodySpec => parse(bodySpecSchema, text, file);
export const decodePlan = (text: string, file: string): PlanSpec => parse(planSpecSchema, text, file);
export const decodeContacts = (text: string, file: string): ContactsFile => parse(contactsFileSchema, text, file);
/** A ground file, or the ground of a plan file. */
export function decodeGround(text: string, file: string): GroundSpec {
  const json = parseJson(text, file);
  return (json as { format?: unknown } | null)?.format === 'nimbret.plan' ? decodePlan(text, file).ground : parse(groundSpecSchema, text, file);
}
