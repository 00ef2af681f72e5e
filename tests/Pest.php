<?php

declare(strict_types=1);

use Illuminate\Foundation\Testing\DatabaseTransactions;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Assert;
use Tests\TestCase;

pest()->extend(TestCase::class)->use(DatabaseTransactions::class)->in('App');
pest()->extend(TestCase::class)->in('Engine');

/** What a person reads: text that a template breaks over lines is one text. */
TestResponse::macro('assertReads', function (string $text): TestResponse {
    /** @var TestResponse $this */
    Assert::assertStringContainsString($text, (string) preg_replace('/\s+/', ' ', strip_tags((string) $this->getContent())));

    return $this;
});
