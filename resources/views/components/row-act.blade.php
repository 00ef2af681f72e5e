@props(['in', 'id', 'label', 'tab' => false])
{{-- The cell at the end of a row: into it, and out of it. Where rows can be picked the keys lead there, and no Tab stops here. --}}
<td class="act">
  @if ($in->is($id))
    <a href="{{ $in->out() }}" data-leave>Leave</a>
  @else
    <a href="{{ $in->into($id) }}" data-inrow aria-label="Edit {{ $label }}" @unless ($tab) tabindex="-1" @endunless>Edit</a>
  @endif
</td>
