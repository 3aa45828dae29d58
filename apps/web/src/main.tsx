import '@fontsource-variable/figtree';
import '@fontsource-variable/fraunces';
import './design/tokens.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { z } from 'zod';
import { sayIssue } from './design/faults';

// The content security policy allows no code made at run time, so Zod must not try.
z.config({ jitless: true, customError: sayIssue });

// After it: what the contract describes is set up as it is loaded.
const { App } = await import('./app');

const root = document.getElementById('root');
if (!root) throw new Error('The page has no root element');
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
