import { z } from 'zod';
import { companySchema } from './company.js';
import { endpoint, roles } from './endpoint.js';

export const userSchema = z.object({
  id: z.number(),
  email: z.string(),
  name: z.string(),
  role: z.enum(roles),
});
export type UserAnswer = z.infer<typeof userSchema>;

export const session = {
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
    summary: 'Who is signed in, and whose shelf it is',
    answer: userSchema.extend({ company: companySchema }),
  }),
  signOut: endpoint({
    role: 'viewer',
    method: 'DELETE',
    path: '/api/session',
    summary: 'End the session',
    answer: z.object({}),
  }),
};
