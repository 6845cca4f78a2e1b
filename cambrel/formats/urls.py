from django.urls import path

from cambrel.formats import views

app_name = "formats"
urlpatterns = [path("formats/", views.formats, name="page")]
