@props(['form', 'button' => 'Show what follows', 'row' => false])
<div id="follows-{{ $form }}" @class(['follows-slot', 'of-row' => $row])>
  <div class="waiting">
    <p>What an edit would write, and what the checks say, stands here before anything is saved.</p>
    <p><button class="btn small" form="{{ $form }}" name="then" value="preview">{{ $button }}</button></p>
  </div>
</div>
