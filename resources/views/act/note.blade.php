<li @if ($note->field) data-field="{{ $note->field }}" @endif data-verdict="{{ $note->verdict->value }}">
  @mark($note->verdict->mark(), $note->verdict->value)
  <span>
    @if ($note->verdict === App\Acts\Engine\NoteVerdict::Passed)
      {{ $note->message }}
    @else
      <b>{{ rtrim($note->message, '.?') }}{{ str_ends_with($note->message, '?') ? '?' : '.' }}</b> <span class="why">{{ $note->why }}</span>
    @endif
    @if ($note->standard)
      <span class="rfc">{{ $note->standard }}</span>
    @endif
    @if ($note->link)
      <a href="{{ $note->link }}">Show it</a>
    @endif
    @if ($note->offer && $note->field)
      <button type="button" class="btn small" data-offer="{{ $note->offer }}" data-into="{{ $note->field }}">Take {{ $note->offer }}</button>
    @endif
  </span>
</li>
