import { EmptyPlace } from '../../parts/Card.tsx'
import { Title } from '../../parts/Title.tsx'
import { Words } from '../../parts/words.tsx'

/** A screen that holds nothing yet: what it is for, and how it begins. */
export function NothingYet({ title, children }: { readonly title: string; readonly children: string }) {
  return (
    <EmptyPlace>
      <Title variant="h1" bottom="snug">
        {title}
      </Title>
      <Words tone="quiet">{children}</Words>
    </EmptyPlace>
  )
}
