from django.urls import path

from cambrel.owners import views

app_name = "owners"
urlpatterns = [path("undo/<int:pk>/", views.undo_change, name="undo")]
