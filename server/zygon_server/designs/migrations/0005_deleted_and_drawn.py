from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('designs', '0004_edit_token'),
    ]

    operations = [
        migrations.AddField(
            model_name='design',
            name='deleted',
            field=models.DateTimeField(blank=True, db_index=True, null=True),
        ),
        migrations.AddField(
            model_name='design',
            name='drawing',
            field=models.TextField(default=''),
        ),
        migrations.AddField(
            model_name='design',
            name='drawn',
            field=models.PositiveIntegerField(default=0),
        ),
    ]
