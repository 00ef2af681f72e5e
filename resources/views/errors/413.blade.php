@include('errors.page', [
    'code' => 413,
    'head' => 'Too large',
    'says' => $exception->getMessage() ?: 'What was sent is larger than this page takes. Send a long list as an import.',
    'to' => at('import'),
    'label' => 'To imports',
])
