import '@fontsource-variable/figtree';
import '@fontsource-variable/fraunces';
import './design/tokens.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app';

const root = document.getElementById('root');
if (!root) throw new Error('The page has no root element');
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
