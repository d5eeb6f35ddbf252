import '@fontsource-variable/hanken-grotesk/wght.css';
import '@fontsource-variable/bricolage-grotesque/wght.css';
import '../app/tokens.css';
import './proof.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { ProofApp } from './ProofApp';

const key = location.pathname.split('/')[2] ?? '';
createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <ProofApp linkKey={key} />
  </StrictMode>,
);
