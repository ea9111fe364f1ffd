import { ROUTES, addressOf, type Render } from '@fogbath/contract'
import { useMessage } from 'naive-ui'
import { computed, onBeforeUnmount, onMounted, shallowRef } from 'vue'
import { api } from '../api/client'
import { usePages } from '../components/usePages'
import { wordsOf } from '../stores/errors'
import { isInLine, type Step } from './renders'

/** Renders in line in their order, and those that have ended, the newest first; both as they are now. */
export function useRenders() {
  const { items, more, problem, refresh: refreshPages, older, change, drop } = usePages(api.renders)
  const message = useMessage()
  const all = shallowRef<readonly Render[]>([])
  const line = computed(() => all.value.filter(isInLine))
  // The two lists are asked for one after the other: a render that is begun again stands in line alone meanwhile.
  const ended = computed(
    () => items.value?.filter((r) => !isInLine(r) && line.value.every(({ id }) => id !== r.id)) ?? null,
  )
  let events: EventSource | undefined
  let left = false

  async function refresh(): Promise<void> {
    await refreshPages()
    if (!problem.value) await attempt(async () => void (all.value = await api.renderLine()))
  }

  async function attempt(work: () => Promise<void>): Promise<void> {
    try {
      await work()
    } catch (error) {
      message.error(wordsOf(error))
      await refreshPages()
    }
  }

  function take(step: Step): void {
    const known = all.value.find((r) => r.id === step.id)
    change(step.id, step)
    all.value = all.value.map((r) => (r.id === step.id ? { ...r, ...step } : r))
    // What has come, or goes from one list to the other, stands in both only after they were asked for anew.
    if (!known ? isInLine(step) : !isInLine(step)) void refresh()
  }

  onMounted(async () => {
    await refresh()
    if (left) return
    events = new EventSource(addressOf(ROUTES.renderEvents))
    events.onmessage = (e: MessageEvent<string>) => take(JSON.parse(e.data) as Step)
    // After a break in the connection steps may have been missed.
    events.onopen = () => void refresh()
  })
  onBeforeUnmount(() => {
    left = true
    events?.close()
  })

  return {
    line,
    ended,
    more,
    problem,
    refresh,
    older,
    act: ({ id }: Render, action: Parameters<typeof api.renderAction>[1]) =>
      attempt(async () => {
        const answer = await api.renderAction(id, action)
        if (action === 'again') await refresh()
        else take(answer)
      }),
    remove: ({ id }: Render) =>
      attempt(async () => {
        await api.deleteRender(id)
        drop(id)
        all.value = all.value.filter((r) => r.id !== id)
      }),
    reorder: (ids: readonly number[]) => attempt(async () => void (all.value = await api.reorderRenders(ids))),
  }
}
