<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A second thing besides the password: codes from a device, and a few on paper for the day on which it is lost. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('people', function (Blueprint $t): void {
            $t->text('code_secret')->nullable(); // encrypted
            $t->unsignedBigInteger('code_counter')->default(0); // the last step whose code was used
            $t->json('paper_codes')->nullable(); // hashes
        });
    }

    public function down(): void
    {
        Schema::table('people', fn (Blueprint $t) => $t->dropColumn(['code_secret', 'code_counter', 'paper_codes']));
    }
};
