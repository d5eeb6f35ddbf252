import { useQueryClient } from '@tanstack/react-query';
import { App, Modal, Radio } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { type BundleTaken, NEW_BRAND } from '../../contract/bundles';
import { paths } from '../../contract/paths';
import { upload } from '../data/http';
import { useBrand } from '../data/useBrand';
import { wordsFor } from '../messages';

/** Imports a bundle into the brand that is open, or into a new one: the person says which. */
export function TakeBundle() {
  const { brand, choose } = useBrand();
  const { message } = App.useApp();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [file, setFile] = useState<File | null>(null);
  const [isForNew, setForNew] = useState(false);
  const [isBusy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  // The brand that is open now, whatever was open when the choice was made.
  const target = isForNew || !brand ? NEW_BRAND : brand.id;
  const importIt = async () => {
    if (!file) return;
    setBusy(true);
    setProblem(null);
    try {
      const path = `${paths.bundles}?name=${encodeURIComponent(file.name)}&brand=${target}`;
      const { brandId, brandName, marks } = await upload<BundleTaken>(path, file, new AbortController().signal);
      await queries.invalidateQueries();
      choose(brandId);
      const count = `${marks.length} ${marks.length === 1 ? 'mark' : 'marks'}`;
      void message.success(`${file.name}: ${count} imported into ${brandName}`);
      void navigate('/marks');
    } catch (fault) {
      setProblem(wordsFor(fault));
    }
    setBusy(false);
    setFile(null);
  };
  return (
    <>
      <label className="plain replace">
        {isBusy ? 'Importing…' : 'Import a bundle'}
        <input
          type="file"
          accept=".zip,application/zip"
          className="visually-hidden"
          aria-label="Bundle to import"
          disabled={isBusy}
          onChange={(e) => {
            const [chosen] = e.target.files ?? [];
            e.target.value = '';
            setForNew(false);
            if (chosen) setFile(chosen);
          }}
        />
      </label>
      <Modal
        open={file !== null}
        title={`Import ${file?.name ?? ''}`}
        okText="Import"
        confirmLoading={isBusy}
        onOk={() => void importIt()}
        onCancel={() => setFile(null)}
      >
        <Radio.Group
          aria-label="Import into"
          value={target}
          onChange={(e) => setForNew(e.target.value === NEW_BRAND)}
          options={[
            ...(brand ? [{ value: brand.id, label: `Into ${brand.name}` }] : []),
            { value: NEW_BRAND, label: 'Into a new brand' },
          ]}
          vertical
        />
      </Modal>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
    </>
  );
}
