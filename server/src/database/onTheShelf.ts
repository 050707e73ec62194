/** Of a study `s`, in SQL: it lies neither in the trash nor among the exercises. */
export const ON_THE_SHELF = 's.deleted_at IS NULL AND NOT EXISTS (SELECT 1 FROM practice p WHERE p.study_id = s.id)';
