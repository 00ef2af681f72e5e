<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('role_limits', function (Blueprint $t): void {
            $t->char('id', 26)->charset('ascii')->primary();
            $t->string('role', 20)->unique();
            $t->json('withheld');
            $t->unsignedInteger('version')->default(1);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('role_limits');
    }
};
