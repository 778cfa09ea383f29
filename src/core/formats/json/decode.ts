import { gaitSpecSchema } from '../../gait/schema';
import type { GaitSpec } from '../../gait/spec';
import { bodySpecSchema, type BodySpec } from '../../body/spec';
import { planSpecSchema, type PlanSpec } from '../../steps/plan';
import { FormatFault } from '../limits';
import type { z } from 'zod';

/** Words one issue: path, what is wrong, the allowed range where there is one. */
export function describeIssue(issue: z.core.$ZodIssue): string {
  const path = issue.path.map(String).join('.') || '(whole)';
  if (issue.code === 'too_small') return `${path}: must be at least ${issue.minimum}`;
  if (issue.code === 'too_big') return `${path}: must be at most ${issue.maximum}`;
  return `${path}: ${issue.message}`;
}

function parse<T>(schema: z.ZodType<T>, text: string, file: string): T {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new FormatFault(`not JSON: ${error instanceof Error ? error.message : String(error)}`, file);
  }
  const result = schema.safeParse(json);
  if (!result.success) throw new FormatFault(result.error.issues.map(describeIssue).join(`\n${file}: `), file);
  return result.data;
}

/** Reads a gait file; throws FormatFault with one line a fault. */
export const decodeGait = (text: string, file: string): GaitSpec => parse(gaitSpecSchema, text, file);
export const decodeBody = (text: string, file: string): BodySpec => parse(bodySpecSchema, text, file);
export const decodePlan = (text: string, file: string): PlanSpec => parse(planSpecSchema, text, file);
