@include('errors.page', [
    'code' => 429,
    'head' => 'Too many requests',
    'says' => 'You, or a script under your name, sent more in a minute than is taken. Wait a moment, then try again.',
    'to' => '/',
    'label' => 'To your first page',
])
