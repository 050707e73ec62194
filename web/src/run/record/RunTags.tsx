import { TagsBody, type Run } from '@red-ember/contract';
import { sentenceOf, useTagRunMutation } from '../../data/api.ts';
import { Button } from '../../ui/Button.tsx';
import { FormProblems, FormText, useCheckedForm } from '../../ui/form.tsx';
import { Notice } from '../../ui/Notice.tsx';

/** Words that a run is found by among all runs of the bench. */
export function RunTags({ run }: { run: Run }) {
  const [tag, tagging] = useTagRunMutation();
  const { control, handleSubmit, formState } = useCheckedForm(TagsBody, { tags: run.tags });
  return (
    <form className="mt-5" onSubmit={(event) => void handleSubmit(({ tags }) => tag({ id: run.id, tags }))(event)}>
      <FormProblems errors={formState.errors}>
        <div className="flex flex-wrap items-end gap-4">
          <FormText className="min-w-64 flex-1" label="Tags, commas between them" control={control} name="tags" />
          <Button type="submit" disabled={!formState.isDirty || tagging.isLoading}>
            Tag it
          </Button>
        </div>
      </FormProblems>
      {tagging.error ? <Notice tone="error">{sentenceOf(tagging.error)}</Notice> : null}
    </form>
  );
}
