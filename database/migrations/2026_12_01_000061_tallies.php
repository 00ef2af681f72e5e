<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What the application itself did, counted up by each machine.
        Schema::create('tallies', function (Blueprint $t): void {
            $t->string('machine', 100);
            $t->string('family', 40);
            $t->string('label', 60);
            $t->double('n');
            $t->primary(['machine', 'family', 'label']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('tallies');
    }
};
