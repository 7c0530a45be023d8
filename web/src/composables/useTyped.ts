import { ask, type Schemas } from '../api/client'

export type TypedFormView = Schemas['TypedFormView']

/** Everything a form holds as text, understood by the server; a text that is no number is refused by its field's name. */
export const readTyped = (body: Schemas['TypedForm']): Promise<TypedFormView> =>
  ask((api) => api.POST('/api/typed', { body }))

/** Texts of one unit by field name, as the server takes them. */
export const inUnit = (
  unit: string,
  texts: Record<string, string>,
): Record<string, { text: string; unit: string }> =>
  Object.fromEntries(Object.entries(texts).map(([name, text]) => [name, { text, unit }]))
