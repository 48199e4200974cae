import { ref } from 'vue';
import { describe, expect, it } from 'vitest';
import { useChosenOf } from './chosenOf.ts';

describe('what is chosen of a list', () => {
  it('is the first, and stays that one when others come before it', () => {
    const rows = ref<{ id: number }[]>([]);
    const { chosen } = useChosenOf(() => rows.value);
    expect(chosen.value).toBeNull();
    rows.value = [{ id: 3 }, { id: 2 }];
    expect(chosen.value).toEqual({ id: 3 });
    rows.value = [{ id: 4 }, { id: 3 }, { id: 2 }];
    expect(chosen.value).toEqual({ id: 3 });
  });

  it('is nothing once it is gone, until another is chosen, or the first again', () => {
    const rows = ref([{ id: 3 }, { id: 2 }, { id: 1 }]);
    const { chosenId, chosen } = useChosenOf(() => rows.value);
    rows.value = [{ id: 2 }, { id: 1 }];
    expect(chosen.value).toBeNull();
    chosenId.value = 1;
    expect(chosen.value).toEqual({ id: 1 });
    chosenId.value = null;
    expect(chosen.value).toEqual({ id: 2 });
  });
});
