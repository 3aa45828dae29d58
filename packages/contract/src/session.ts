import { z } from 'zod';
import { endpoint } from './endpoint.js';

export const userSchema = z.object({
  id: z.number(),
  email: z.string(),
  name: z.string(),
  role: z.enum(['owner', 'editor', 'publisher', 'viewer']),
});
export type UserAnswer = z.infer<typeof userSchema>;

export const session = {
  signIn: endpoint({
    method: 'POST',
    path: '/api/session',
    summary: 'Sign in; the answer sets a cookie',
    open: true,
    body: z.object({
      email: z.string().min(1, 'Give your e-mail address'),
      password: z.string().min(1, 'Give your password'),
    }),
    answer: userSchema,
  }),
  who: endpoint({ method: 'GET', path: '/api/session', summary: 'Who is signed in', answer: userSchema }),
  signOut: endpoint({
    method: 'DELETE',
    path: '/api/session',
    looks: true,
    summary: 'End the session',
    answer: z.object({}),
  }),
};
