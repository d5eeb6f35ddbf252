import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { BundleTaken } from '../../contract/bundles';
import { paths } from '../../contract/paths';
import { upload } from '../data/http';
import { useBrand } from '../data/useBrand';
import { wordsFor } from '../messages';

/** Takes a bundle in, and opens the brand that it came to be in. */
export function TakeBundle() {
  const { choose } = useBrand();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [isBusy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (file: File) => {
    setBusy(true);
    setProblem(null);
    try {
      const path = `${paths.bundles}?name=${encodeURIComponent(file.name)}`;
      const { brandId } = await upload<BundleTaken>(path, file, new AbortController().signal);
      await queries.invalidateQueries();
      choose(brandId);
      void navigate('/marks');
    } catch (fault) {
      setProblem(wordsFor(fault));
      setBusy(false);
    }
  };
  return (
    <>
      <label className="plain replace">
        {isBusy ? 'Being taken in…' : 'Take in a bundle'}
        <input
          type="file"
          accept=".zip,application/zip"
          className="visually-hidden"
          aria-label="Bundle to take in"
          disabled={isBusy}
          onChange={(e) => {
            const [file] = e.target.files ?? [];
            e.target.value = '';
            if (file) void take(file);
          }}
        />
      </label>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
    </>
  );
}
