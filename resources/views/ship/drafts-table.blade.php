<x-table :label="$label" data-worktable>
  <thead>
    <tr>
      <th>Draft</th>
      <th>By</th>
      <th class="num">Edits</th>
      <th>Submitted</th>
      <th>State</th>
      <th>Your edits</th>
    </tr>
  </thead>
  <tbody>
    @foreach ($drafts as $d)
      <tr>
        <td class="name"><a href="{{ at('ship.draft', $d->id) }}">{{ $d->line() }}</a></td>
        <td>
          {{ $d->person->name }}
          @if ($d->hands->count() > 1)
            <span class="hint">with {{ $d->hands->where('person_id', '!=', $d->person_id)->pluck('person.name')->implode(', ') }}</span>
          @endif
        </td>
        <td class="num">{{ $d->edits->count() }}</td>
        <td title="{{ $d->submitted_at }}" data-key="{{ $d->submitted_at?->getTimestamp() }}">{{ $d->submitted_at?->diffForHumans() ?? 'not yet' }}</td>
        <td>{{ App\View\DraftWords::state($d) }}</td>
        <td>
          @if ($d->id === $current)
            @mark('ok') go here
          @elseif ($d->state === App\Models\DraftState::Open && $d->hands->contains('person_id', auth()->id()))
            <form method="post" action="{{ at('act', 'take-up-draft') }}">
              @csrf
              <input type="hidden" name="then" value="commit">
              <input type="hidden" name="draft" value="{{ $d->id }}">
              <input type="hidden" name="stay" value="{{ at('ship.drafts') }}">
              <button class="btn small" aria-label="Work on {{ $d->line() }}">Work on it</button>
            </form>
          @endif
        </td>
      </tr>
    @endforeach
  </tbody>
</x-table>
