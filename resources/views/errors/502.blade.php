@include('errors.page', [
    'code' => 502,
    'head' => 'A server outside did not answer',
    'says' => $says ?? 'What it would have said is not known; nothing was written here.',
    'to' => at('ship'),
    'label' => 'To the servers',
])
