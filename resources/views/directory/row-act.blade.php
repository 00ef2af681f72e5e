{{-- The cell at the end of a row of the directory: into the row, and out of it. --}}
@if ($form)
  <td class="act">
    @if ($inrow && $edited->is($r))
      <a href="{{ $at(null) }}" data-leave>Leave</a>
    @else
      <a href="{{ $at($r) }}" data-inrow tabindex="-1" aria-label="Edit {{ $r->name }}">Edit</a>
    @endif
  </td>
@endif
