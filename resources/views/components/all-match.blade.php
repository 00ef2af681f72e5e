{{-- Beside what is picked on a page of a list: all that its filter finds, as if each were picked. --}}
@props(['field', 'list', 'within' => '', 'filter' => '', 'total', 'shown', 'form' => null])
@if ($total > $shown && $total <= \App\Queries\Matching::AT_ONCE)
  <label class="tick">
    <input type="checkbox" name="all[{{ $field }}]" value="{{ "$list:$within:$filter" }}" data-all="{{ number_format($total) }}"
      @if ($form) form="{{ $form }}" @endif>
    all {{ number_format($total) }}{{ $filter === '' ? '' : ' that match' }}
  </label>
@endif
