import type { Request } from 'express';
import * as yup from 'yup';

const uuid = yup
  .string()
  .matches(/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/, ({ path }) => `${path} must be an id given by the server`);

/** Schemas of address parameters, by their name in the route. */
const PARAMS = {
  id: uuid.required(),
  hash: yup
    .string()
    .matches(/^[0-9a-f]{64}$/, 'hash must be a SHA-256 in hex')
    .required(),
  number: yup
    .string()
    .matches(/^[1-9]\d{0,8}$/, 'number must be a whole number from 1, in plain digits')
    .required(),
};

/** One parameter of the address, checked. @throws yup.ValidationError */
export const param = <K extends keyof typeof PARAMS>(req: Request, name: K): yup.InferType<(typeof PARAMS)[K]> =>
  PARAMS[name].label(name).validateSync(req.params[name]) as yup.InferType<(typeof PARAMS)[K]>;

/** The number of a revision in the address. @throws yup.ValidationError */
export const numberParam = (req: Request): number => Number(param(req, 'number'));

/** The body, checked against a schema. @throws yup.ValidationError */
export const body = <S extends yup.Schema>(req: Request, schema: S): yup.InferType<S> =>
  schema.validateSync(req.body ?? undefined, { abortEarly: false, strict: true }) as yup.InferType<S>;

/** A body of bytes. @throws yup.ValidationError when it is empty or came as something else */
export function bytesOf(req: Request, type = 'application/octet-stream'): Uint8Array {
  if (Buffer.isBuffer(req.body) && req.body.length > 0)
    return new Uint8Array(req.body.buffer, req.body.byteOffset, req.body.length);
  const what = type === 'application/json' ? 'JSON' : 'the bytes of a file';
  throw new yup.ValidationError(`The body must hold ${what}, as ${type}`);
}
