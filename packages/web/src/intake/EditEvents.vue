<script setup lang="ts">
import type { EditPlan, PlannedEvent, Shot } from '@fogbath/contract'
import { computed } from 'vue'
import { shownInWords, stateInWords } from './edits'

/** What an edit makes of the shots, event by event, and the shots that it does not show. */
const props = defineProps<{ plan: EditPlan; shots: readonly Shot[] }>()
const removed = defineModel<ReadonlySet<number>>('removed', { required: true })

const names = computed(() => new Map(props.shots.map(({ id, name }) => [id, name])))
const nameOf = (id: number | null): string | null => (id === null ? null : (names.value.get(id) ?? null))
/** A shot that was named by hand is called as it is called here. */
const called = ({ shotId, name }: PlannedEvent): string => nameOf(shotId) ?? name
function choose(id: number, on: boolean): void {
  removed.value = new Set(on ? [...removed.value, id] : [...removed.value].filter((other) => other !== id))
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Events of the list">
    <table>
      <thead>
        <tr>
          <th scope="col">Nr</th>
          <th scope="col">Shot</th>
          <th scope="col">Shows</th>
          <th scope="col">Becomes</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(e, i) in plan.events" :key="i" :class="{ still: e.shotId !== null && !e.trimmed && !e.moved }">
          <td class="mono">{{ String(i + 1).padStart(3, '0') }}</td>
          <td>{{ called(e) }}</td>
          <td>
            {{ shownInWords(e) }}<template v-if="e.graded">{{ e.range ? ', ' : '' }}with its colour decision</template>
            <span v-if="e.missing" class="warn">{{ e.missing }}</span>
            <span v-if="e.remark" class="warn">{{ e.remark }}</span>
          </td>
          <td :class="{ warn: !e.range }">{{ stateInWords(e, nameOf(e.like)) }}</td>
        </tr>
      </tbody>
    </table>
    <fieldset v-if="plan.gone.length">
      <legend>Shots that the list does not show; ticked ones are removed, the others stay behind it</legend>
      <label v-for="s in plan.gone" :key="s.id"
        ><input
          type="checkbox"
          :checked="removed.has(s.id)"
          @change="choose(s.id, ($event.target as HTMLInputElement).checked)"
        />
        {{ s.name }}</label
      >
    </fieldset>
  </div>
</template>

<style scoped>
.scroll {
  margin-top: 10px;
  max-height: 54vh;
  overflow-y: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  border-bottom: 1px solid var(--line);
  padding: 4px 10px 4px 0;
  text-align: left;
  vertical-align: top;
}
th {
  background: var(--raised);
  font-weight: 600;
  position: sticky;
  top: 0;
}
td .warn {
  display: block;
}
.still td {
  color: var(--quiet);
}
fieldset {
  border: 0;
  margin: 12px 0 0;
  padding: 0;
}
fieldset label {
  display: inline-flex;
  gap: 6px;
  margin-right: 18px;
  min-height: 24px;
}
input {
  accent-color: var(--accent);
}
</style>
