import * as yup from 'yup';

/** What a save sends; the document in it is checked by what knows documents. */
export const saveBody = yup
  .object({ basedOn: yup.number().integer().min(1).required(), document: yup.mixed<NonNullable<unknown>>().required() })
  .noUnknown()
  .required();
