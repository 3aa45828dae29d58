import { z } from 'zod';
import { companySchema } from './company.js';
import { endpoint, idParam, moment, roles } from './endpoint.js';

export const userSchema = z.object({
  id: z.number(),
  email: z.string(),
  name: z.string(),
  role: z.enum(roles),
});
export type UserAnswer = z.infer<typeof userSchema>;

export const passwordSchema = z
  .string()
  .min(10, 'A password has ten letters or more')
  .max(1000, 'That is more than a password holds');

/** Who somebody is, as she says it herself. */
const personShape = {
  name: z.string().trim().min(1, 'Give your name').max(120),
  password: passwordSchema,
};
const emailSchema = z.string().trim().toLowerCase().pipe(z.email('Give an e-mail address').max(320));

export const session = {
  firstRun: endpoint({
    role: 'anyone',
    method: 'GET',
    path: '/api/first-run',
    summary: 'Whether somebody owns this shelf already',
    answer: z.object({ owned: z.boolean() }),
  }),
  own: endpoint({
    role: 'anyone',
    method: 'POST',
    path: '/api/first-run',
    summary: 'Make the owner’s account, by the code that the command printed; once',
    body: z.object({
      code: z.string().trim().min(1, 'Give the code that the command printed').max(40),
      email: emailSchema,
      ...personShape,
    }),
    answer: userSchema,
  }),
  signIn: endpoint({
    role: 'anyone',
    method: 'POST',
    path: '/api/session',
    summary: 'Sign in; the answer sets a cookie',
    body: z.object({
      email: z.string().min(1, 'Give your e-mail address').max(320),
      password: z.string().min(1, 'Give your password').max(1000),
    }),
    answer: userSchema,
  }),
  who: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/session',
    summary: 'Who is signed in, and whose shelf it is; nobody’s until a company is made',
    answer: userSchema.extend({ company: companySchema.nullable() }),
  }),
  password: endpoint({
    role: 'viewer',
    method: 'PUT',
    path: '/api/session/password',
    summary: 'Change one’s own password; other sessions of the account end',
    body: z.object({
      current: z.string().min(1, 'Give the password you have now').max(1000),
      password: passwordSchema,
    }),
    answer: z.object({}),
  }),
  people: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/people',
    summary: 'Who may come in, and who is invited',
    answer: z.object({
      items: z.array(userSchema.extend({ lastVisit: moment.nullable() })),
      invites: z.array(z.object({ id: z.number(), email: z.string(), role: z.enum(roles), expires: moment })),
    }),
  }),
  invite: endpoint({
    role: 'owner',
    method: 'POST',
    path: '/api/invites',
    summary: 'A link by which somebody comes in, shown once; a second one for an address takes the first away',
    body: z.object({ email: emailSchema, role: z.enum(roles) }),
    answer: z.object({ link: z.string(), expires: moment }),
  }),
  withdrawInvite: endpoint({
    role: 'owner',
    method: 'DELETE',
    path: '/api/invites/:id',
    summary: 'Withdraw an invitation',
    params: idParam,
    answer: z.object({}),
  }),
  invited: endpoint({
    role: 'anyone',
    method: 'GET',
    path: '/api/invited/:token',
    summary: 'Whom a link invites',
    params: z.object({ token: z.string().max(100) }),
    answer: z.object({ email: z.string(), role: z.enum(roles), company: z.string() }),
  }),
  join: endpoint({
    role: 'anyone',
    method: 'POST',
    path: '/api/invited/:token',
    summary: 'Come in by a link: makes the account and signs in',
    params: z.object({ token: z.string().max(100) }),
    body: z.object(personShape),
    answer: userSchema,
  }),
  changePerson: endpoint({
    role: 'owner',
    method: 'PATCH',
    path: '/api/people/:id',
    summary: 'Give somebody another role, or let her come in no more; the last owner stays',
    params: idParam,
    body: z.object({ role: z.enum(roles).optional(), gone: z.literal(true).optional() }),
    answer: z.object({}),
  }),
  signOut: endpoint({
    role: 'viewer',
    method: 'DELETE',
    path: '/api/session',
    summary: 'End the session',
    answer: z.object({}),
  }),
};
