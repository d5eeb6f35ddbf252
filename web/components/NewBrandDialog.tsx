import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Button, Input, Modal } from 'antd';
import { useState } from 'react';
import { paths } from '../../contract/paths';
import type { BrandView } from '../../contract/views';
import { send } from '../data/http';
import { useBrand } from '../data/useBrand';
import { wordsFor } from '../messages';

/** Asks for a brand's name and makes it the chosen one. */
export function NewBrandDialog({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState('');
  const queries = useQueryClient();
  const { choose } = useBrand();
  const add = useMutation({
    mutationFn: () => send<BrandView>('POST', paths.brands, { name: name.trim(), palette: [] }),
    onSuccess: async (brand) => {
      await queries.invalidateQueries({ queryKey: ['brands'] });
      choose(brand.id);
      onClose();
    },
  });
  const canAdd = name.trim() !== '' && !add.isPending;
  return (
    <Modal open title="New brand" onCancel={onClose} footer={null} width={420}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (canAdd) add.mutate();
        }}
        style={{ display: 'grid', gap: 12 }}
      >
        <label htmlFor="brand-name" className="soft">
          An organisation or person whose marks are kept together
        </label>
        <Input
          id="brand-name"
          autoFocus
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
          placeholder="Name"
        />
        {add.error && (
          <p className="warn" role="alert">
            {wordsFor(add.error)}
          </p>
        )}
        <Button type="primary" htmlType="submit" disabled={!canAdd}>
          Add brand
        </Button>
      </form>
    </Modal>
  );
}
