import { z } from 'zod';
import { contactsFileSchema } from '../contacts/told';
import { groundSpecSchema } from '../../ground/spec';
import { walkSchema } from '../../steps/plan';

/** The JSON Schemas (draft 2020-12) that are published for who writes our files, in their present version. */
export const publishedSchemas = (): { readonly name: string; readonly schema: object }[] => [
  { name: 'nimbret.plan', schema: z.toJSONSchema(walkSchema) },
  { name: 'nimbret.ground', schema: z.toJSONSchema(groundSpecSchema) },
  { name: 'nimbret.contacts', schema: z.toJSONSchema(contactsFileSchema) },
];
