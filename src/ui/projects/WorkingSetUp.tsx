import { type Project, updateProject } from '#core/projects/contract.ts'
import { Choice } from '#ui/kit/Choice.tsx'
import { EditText } from '#ui/kit/EditText.tsx'
import { useWrite } from '#ui/shell/answers.tsx'

/** How the project works, as a sentence a lead can change. */
export function WorkingSetUp({ project, lead }: { project: Project; lead: boolean }) {
  const { attempt } = useWrite(updateProject)
  const set = (body: { freshnessDays?: number; approvalRequired?: boolean; reasonAsked?: boolean }) =>
    void attempt({ params: { key: project.key }, body })
  if (!lead)
    return (
      <p className="quiet">
        {project.name}, times in {project.timeZone}; a result is too old after {project.freshnessDays} days; cases{' '}
        {project.approvalRequired ? 'are approved before they are executed' : 'are executed in their newest version'}. A
        lead can change what stands here.
      </p>
    )
  return (
    <p>
      {project.name}, times in {project.timeZone}; a result is too old after{' '}
      <EditText
        label="Days after which a result is too old"
        value={String(project.freshnessDays)}
        onStore={(value) => {
          if (Number(value) >= 1) set({ freshnessDays: Number(value) })
        }}
      />{' '}
      days; cases{' '}
      <Choice
        label="Approval"
        value={project.approvalRequired ? 'yes' : 'no'}
        options={[
          { value: 'no', label: 'are executed in their newest version' },
          { value: 'yes', label: 'must be approved before they are executed' },
        ]}
        onChoose={(value) => set({ approvalRequired: value === 'yes' })}
      />
      ;{' '}
      <Choice
        label="Reason of a version"
        value={project.reasonAsked ? 'yes' : 'no'}
        options={[
          { value: 'no', label: 'no reason is asked for' },
          { value: 'yes', label: 'a reason is asked for' },
        ]}
        onChoose={(value) => set({ reasonAsked: value === 'yes' })}
      />{' '}
      when a version is cut.
    </p>
  )
}
