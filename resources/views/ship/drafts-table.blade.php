<x-table :label="$label" data-worktable>
  <thead>
    <tr>
      <th>Draft</th>
      <th>By</th>
      <th class="num">Edits</th>
      <th>Submitted</th>
      <th>State</th>
    </tr>
  </thead>
  <tbody>
    @foreach ($drafts as $d)
      <tr>
        <td class="name"><a href="{{ $d->state === 'open' ? '/ship/draft' : '/ship/drafts/' . $d->id }}">{{ $d->line() }}</a></td>
        <td>{{ $d->person->name }}</td>
        <td class="num">{{ $d->edits->count() }}</td>
        <td title="{{ $d->submitted_at }}" data-key="{{ $d->submitted_at?->getTimestamp() }}">{{ $d->submitted_at?->diffForHumans() ?? 'not yet' }}</td>
        <td>
          @if ($d->ended_at)
            {{ $d->state }} {{ $d->ended_at->diffForHumans() }}{{ $d->decisions->contains('verdict', 'emergency') ? ', in an emergency' : '' }}
          @else
            {{ $state($d) }}
          @endif
        </td>
      </tr>
    @endforeach
  </tbody>
</x-table>
